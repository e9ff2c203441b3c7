import { z } from "zod";
import { relaySetting, setRelay, tryRelay } from "~/server/mail/chosen-relay";
import {
  checkKey,
  giveUpSealed,
  letSign,
  makeKeys,
  retireKey,
  senderDomains,
  setRelaySigns,
} from "~/server/mail/signing-keys";
import { returnsDomain, returnsSetting, setReturns } from "~/server/returned/return-path";
import { sealTrouble } from "~/server/seal";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Came } from "../settings/ask";
import { SenderDomains } from "../settings/domains";
import { SettingsFrame } from "../settings/frame";
import { RelayChoice } from "../settings/relay";
import { Returns } from "../settings/returns";
import { Sealed } from "../settings/sealed";
import type { Route } from "./+types/settings-sending";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return {
    relay: await relaySetting(septima),
    domains: await senderDomains(septima),
    sealed: await sealTrouble(septima),
    returns: { kept: await returnsSetting(septima), now: await returnsDomain(septima) },
    now: septima.now(),
  };
}

const Words = z.object({
  address: z.string().max(500),
  name: z.string().max(500),
  /** Null keeps the one that is there. */
  password: z.string().max(2000).nullable(),
});
const Domain = z.string().max(300);
const Id = z.string().max(100);
const Body = z.union([
  z.object({ intent: z.literal("relay"), relay: Words }),
  z.object({ intent: z.literal("try"), relay: Words.nullable() }),
  z.object({ intent: z.literal("returns"), domain: Domain }),
  z.object({ intent: z.literal("give-up-sealed") }),
  z.object({ intent: z.literal("make-keys"), domain: Domain }),
  z.object({ intent: z.literal("relay-signs"), domain: Domain, signs: z.boolean() }),
  z.object({ intent: z.enum(["use-key", "retire-key", "check-key"]), key: Id }),
]);

/** Changes one thing. What came of trying a relay comes back. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async (): Promise<NonNullable<Came["result"]>> => {
    switch (body.intent) {
      case "relay":
        await setRelay(septima, body.relay);
        return {};
      case "try":
        return { tried: await tryRelay(septima, body.relay) };
      case "make-keys":
        await makeKeys(septima, body.domain);
        return {};
      case "returns":
        await setReturns(septima, body.domain);
        return {};
      case "give-up-sealed":
        await giveUpSealed(septima);
        return {};
      case "relay-signs":
        await setRelaySigns(septima, body.domain, body.signs);
        return {};
      case "use-key":
        await letSign(septima, body.key);
        return {};
      case "retire-key":
        await retireKey(septima, body.key);
        return {};
      case "check-key":
        await checkKey(septima, body.key);
        return {};
    }
  });
}

export default function SendingSettings({
  loaderData: { relay, domains, sealed, returns, now },
}: Route.ComponentProps) {
  return (
    <SettingsFrame>
      {sealed && <Sealed trouble={sealed} />}
      <RelayChoice kept={relay} />
      <SenderDomains domains={domains} now={now} />
      <Returns {...returns} />
    </SettingsFrame>
  );
}
