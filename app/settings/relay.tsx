import type { ReactNode } from "react";
import type { RelaySetting, RelayWords } from "~/server/mail/chosen-relay";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { useDraft } from "../ui/use-draft";
import { useAsk } from "./ask";

const GOES: Record<RelaySetting["by"], (address: string) => ReactNode> = {
  environment: (address) => (
    <>
      Mail leaves by <strong>{address}</strong>. That is said where Septima is started (SEPTIMA_SMTP), and
      changed there.
    </>
  ),
  settings: (address) => (
    <>
      Mail leaves by <strong>{address}</strong>.
    </>
  ),
  postroom: () => "Mail goes to the postroom, which comes with Septima: nothing leaves this machine.",
  nowhere: () => "Mail has nowhere to go: several processes share the work, and no relay is set.",
};

/** By which relay mail leaves; tried before it is kept, if somebody wants. */
export function RelayChoice({ kept }: { kept: RelaySetting }) {
  const { ask, busy, asked, came } = useAsk();
  const saved = came?.result && !came.result.tried ? came : null;
  const { draft, set, changed } = useDraft<RelayWords>(
    { address: kept.address, name: kept.name, password: null },
    saved,
  );
  const { address, name, password } = draft;
  const fixed = kept.by === "environment";
  const keeps = kept.hasPassword && password === null && address === kept.address && name === kept.name;
  return (
    <section className="card space-y-4 p-5" aria-label="Mail relay">
      <div>
        <h2 className="text-[15px] font-semibold">Mail relay</h2>
        <p className="mt-1 text-ink-soft">{GOES[kept.by](kept.address)}</p>
      </div>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          ask({ intent: "relay", relay: draft });
        }}
      >
        {!fixed && (
          <>
            <Labelled
              label="Address of the relay"
              hint="As smtp://relay.example:587, which becomes encrypted before a name is said, or smtps://relay.example:465. Empty for the postroom."
            >
              <Input
                inputMode="url"
                spellCheck={false}
                placeholder="smtp://relay.example:587"
                value={address}
                onChange={(event) => set({ address: event.target.value })}
              />
            </Labelled>
            {address.trim() !== "" && (
              <div className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
                <Labelled label="Name" hint="If it asks for one. It is never said unencrypted.">
                  <Input
                    autoComplete="off"
                    spellCheck={false}
                    value={name}
                    onChange={(event) => set({ name: event.target.value })}
                  />
                </Labelled>
                <Labelled
                  label="Password"
                  hint={
                    keeps
                      ? "It is kept, sealed, and never shown again. Write a new one to replace it."
                      : "Kept sealed, for this address only."
                  }
                >
                  <Input
                    type="password"
                    autoComplete="off"
                    placeholder={keeps ? "••••••••" : ""}
                    value={password ?? ""}
                    onChange={(event) => set({ password: event.target.value })}
                  />
                </Labelled>
              </div>
            )}
          </>
        )}
        <div className="flex flex-wrap items-center gap-3">
          {!fixed && (
            <Button type="submit" kind="primary" disabled={!changed} busy={busy}>
              {address.trim() === "" && kept.address !== "" ? "Go back to the postroom" : "Save the relay"}
            </Button>
          )}
          <Button
            busy={busy}
            onClick={() => ask({ intent: "try", relay: fixed || address.trim() === "" ? null : draft })}
          >
            Try it
          </Button>
          {asked === "try" && <span role="status">Saying hello…</span>}
          {came?.result?.tried && (
            <span role="status" className="text-green">
              It lets us in, {came.result.tried.encrypted ? "encrypted" : "not encrypted"}, in{" "}
              {came.result.tried.ms} ms. Nothing was sent.
            </span>
          )}
          {saved && (
            <span role="status" className="text-green">
              Saved
            </span>
          )}
        </div>
        {came?.problem && <Problem>{came.problem}</Problem>}
      </form>
    </section>
  );
}
