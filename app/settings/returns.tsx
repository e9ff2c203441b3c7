import { Link } from "react-router";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { useDraft } from "../ui/use-draft";
import { useAsk } from "./ask";

/** Where what cannot be delivered comes back to. */
export function Returns({ kept, now }: { kept: string; now: string | null }) {
  const { ask, busy, came, problem } = useAsk();
  const { draft, set, changed } = useDraft({ domain: kept }, came?.result ? came : null);
  return (
    <section className="card space-y-4 p-5" aria-label="What comes back">
      <div>
        <h2 className="text-[15px] font-semibold">What comes back</h2>
        <p className="mt-1 text-ink-soft">
          {now === null
            ? "What cannot be delivered goes to the senders’ own mailboxes: Septima does not hear of it, and writes to those addresses again."
            : `What cannot be delivered comes to an address of its own for each message, at ${now}. Addresses that take no mail are not written to again; who calls a letter spam is not either.`}{" "}
          <Link className="underline underline-offset-2 hover:text-mulberry" to="/settings/returned">
            What came back so far
          </Link>
        </p>
      </div>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          ask({ intent: "returns", domain: draft.domain });
        }}
      >
        <Labelled
          label="Domain for it"
          hint="One of yours whose mail (MX) reaches the door of Septima (SEPTIMA_RETURNS), or is put into its folder (SEPTIMA_RETURNS_FOLDER). It is best a part of the sender domain, as returns.yours.example."
        >
          <Input
            spellCheck={false}
            placeholder="returns.yours.example"
            value={draft.domain}
            onChange={(event) => set({ domain: event.target.value })}
          />
        </Labelled>
        <div className="flex items-center gap-3">
          <Button type="submit" kind="primary" disabled={!changed} busy={busy}>
            Save the domain
          </Button>
          {came?.result && !changed && (
            <span role="status" className="text-green">
              Saved
            </span>
          )}
        </div>
        {problem && <Problem>{problem}</Problem>}
      </form>
    </section>
  );
}
