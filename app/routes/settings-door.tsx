import { doorKeys } from "~/server/door/keys";
import { PURPOSE_NAMES, PURPOSES } from "~/server/door/shapes";
import { SettingsFrame } from "../settings/frame";
import { Keys } from "../settings/keys";
import type { Route } from "./+types/settings-door";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return {
    keys: await doorKeys(septima),
    purposes: PURPOSE_NAMES.map((name) => ({ name, label: PURPOSES[name].label, does: PURPOSES[name].does })),
    origin: septima.config.origin,
    now: septima.now(),
  };
}

export default function DoorPage({ loaderData }: Route.ComponentProps) {
  return (
    <SettingsFrame>
      <Keys {...loaderData} />
    </SettingsFrame>
  );
}
