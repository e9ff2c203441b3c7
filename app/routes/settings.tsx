import { useEffect } from "react";
import { useFetcher } from "react-router";
import { z } from "zod";
import { dateFormat } from "~/core/program";
import { aboutAssistant } from "~/server/assistant/assistant";
import { assistantSetting, setAssistant } from "~/server/assistant/reach";
import { setZone, zoneOf } from "~/server/workspace/settings";
import { forgetWho } from "../assistant/who";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { SettingsFrame } from "../settings/frame";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { useDraft } from "../ui/use-draft";
import { ZoneChoice } from "../ui/zone-choice";
import type { Route } from "./+types/settings";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  return {
    assistant: await assistantSetting(septima),
    zone: await zoneOf(septima),
    now: septima.now(),
  };
}

const Zone = z.object({ intent: z.literal("zone"), zone: z.string().max(100) });
const Assistance = z.object({
  intent: z.enum(["save", "try"]),
  address: z.string().max(2000),
  /** Null keeps the key that is there. */
  key: z.string().max(4000).nullable(),
});

const Body = z.union([Zone, Assistance]);

/** Keeps the zone; or keeps where the assistant is, and asks it who it is: what is kept is also tried. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "zone") {
      await setZone(septima, body.zone);
      return { kept: true, about: null, ms: 0, trouble: null };
    }
    const { intent, address, key } = body;
    if (intent === "save") await setAssistant(septima, address, key);
    const begun = septima.now();
    const { data } = await orProblem(() => aboutAssistant(septima, request.signal));
    return { kept: intent === "save", about: data.result, ms: septima.now() - begun, trouble: data.problem };
  });
}

export default function SettingsPage({ loaderData: { assistant, zone, now } }: Route.ComponentProps) {
  return (
    <SettingsFrame>
      <WorkspaceZone kept={zone} now={now} />
      <Assistant kept={assistant} />
    </SettingsFrame>
  );
}

/** By which days begin. */
function WorkspaceZone({ kept, now }: { kept: string; now: number }) {
  const fetcher = useFetcher<typeof action>();
  return (
    <section className="card space-y-3 p-5" aria-label="Time zone">
      <div>
        <h2 className="text-[15px] font-semibold">Time zone</h2>
        <p className="mt-1 text-ink-soft">
          By it a day begins: “today”, “in the last 30 days” and “birthday within a week” are counted from it.
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <div className="w-72">
          <ZoneChoice
            label="Time zone of the workspace"
            value={kept}
            onChange={(zone) =>
              fetcher.submit(JSON.stringify({ intent: "zone", zone }), {
                method: "post",
                encType: "application/json",
              })
            }
          />
        </div>
        <span className="text-ink-soft">
          There it is{" "}
          {dateFormat("en-GB", {
            weekday: "long",
            day: "numeric",
            month: "long",
            hour: "2-digit",
            minute: "2-digit",
            timeZone: kept,
          }).format(now)}
          .
        </span>
        {fetcher.state === "idle" && fetcher.data?.result && (
          <span role="status" className="text-green">
            Kept
          </span>
        )}
        {fetcher.data?.problem && <Problem>{fetcher.data.problem}</Problem>}
      </div>
    </section>
  );
}

function Assistant({ kept }: { kept: { address: string; hasKey: boolean } }) {
  const fetcher = useFetcher<typeof action>();
  const came = fetcher.state === "idle" ? fetcher.data : undefined;
  const { draft, set } = useDraft<{ address: string; key: string | null }>(
    { address: kept.address, key: null },
    came?.result?.kept ? came : null,
  );
  const { address, key } = draft;
  useEffect(() => {
    if (came?.result?.kept) forgetWho();
  }, [came]);
  const changed = address.trim() !== kept.address || key !== null;
  const submit = (intent: "save" | "try") =>
    fetcher.submit(JSON.stringify({ intent, address, key }), {
      method: "post",
      encType: "application/json",
    });
  const busy = fetcher.state !== "idle";
  return (
    <section className="card space-y-4 p-5" aria-label="Writing assistant">
      <div>
        <h2 className="text-[15px] font-semibold">Writing assistant</h2>
        <p className="mt-1 text-ink-soft">
          It rewords, answers questions about an email and writes first drafts; nothing it writes is put in
          before somebody accepts it. It gets the words of the email, the names of the fields and the brand’s
          name, and nothing about any reader.
        </p>
      </div>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          submit("save");
        }}
      >
        <Labelled
          label="Address"
          hint="Of a server that speaks the interface described in docs/assistant.md. Without one, the simulated assistant that comes with Septima answers by rules."
        >
          <Input
            inputMode="url"
            spellCheck={false}
            placeholder="https://assistant.example/septima"
            value={address}
            onChange={(event) => set({ address: event.target.value })}
          />
        </Labelled>
        {address.trim() !== "" && (
          <Labelled
            label="Key"
            hint={
              kept.hasKey && key === null
                ? "A key is kept. It is never shown again; write a new one to replace it."
                : "If the server asks for one. It goes to that address only."
            }
          >
            <div className="flex gap-2">
              <Input
                type="password"
                autoComplete="off"
                placeholder={kept.hasKey && key === null ? "••••••••" : ""}
                value={key ?? ""}
                onChange={(event) => set({ key: event.target.value })}
              />
              {kept.hasKey && key === null && <Button onClick={() => set({ key: "" })}>Remove</Button>}
            </div>
          </Labelled>
        )}
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" kind="primary" disabled={!changed || busy}>
            Save
          </Button>
          <Button disabled={changed || busy} onClick={() => submit("try")}>
            Try it
          </Button>
          {busy && <span role="status">Asking who is there…</span>}
          {came?.result?.about && (
            <span role="status" className="text-green">
              {came.result.kept ? "Saved. " : ""}“{came.result.about.name}” answers
              {came.result.about.simulated ? ", simulated" : ""}, in {came.result.ms} ms.
            </span>
          )}
        </div>
        {came?.problem && <Problem>{came.problem}</Problem>}
        {came?.result?.trouble && (
          <Problem mild>
            {came.result.kept ? "The address is saved, but it does not work yet. " : ""}
            {came.result.trouble}
          </Problem>
        )}
      </form>
    </section>
  );
}
