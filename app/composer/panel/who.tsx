import { Pencil } from "lucide-react";
import { useState } from "react";
import {
  type AudienceContext,
  type Contact,
  contactName,
  predicate,
  type Rule,
  RuleError,
} from "~/core/audience";
import type { Located } from "~/core/email";
import { firstLine } from "../../rules/line";
import { asGroup, RuleEditor } from "../../rules/rule-editor";
import { RuleSentence } from "../../rules/rule-words";
import { useReaderCount } from "../../rules/use-reader-count";
import { Button } from "../../ui/button";
import { Problem } from "../../ui/form";
import { counted } from "../../ui/time";
import { useActions } from "../actions";
import { useComposer } from "../store";
import { useSet } from "./lines";
import { Part } from "./part";

/** The show rule of a block, row or section. */
export function WhoGetsIt({ node }: { node: Exclude<Located, { kind: "column" }> }) {
  const facts = useComposer((state) => state.facts);
  const reader = useComposer((state) => state.reader);
  const actions = useActions();
  const set = useSet(node.node.id);
  const { show } = node.node;
  // While it is being written, with lines that are still empty; what it says so far holds at once.
  const [draft, setDraft] = useState<ReturnType<typeof asGroup> | null>(null);
  const { words } = facts;
  const now = useReaderCount(draft ?? show);
  const fixed = node.kind === "block" && node.node.type === "footer";
  if (fixed) {
    return (
      <Part title="Who gets it">
        <p className="text-ink-soft">
          Everyone: the unsubscribe link and the postal address belong in every email.
        </p>
      </Part>
    );
  }
  const write = (next: ReturnType<typeof asGroup>) => {
    setDraft(next);
    const rule: Rule | undefined =
      next.of.length === 0 ? undefined : next.of.length === 1 && next.kind !== "none" ? next.of[0] : next;
    set({ show: rule }, "Changing who gets it");
  };
  const begin = () => write({ kind: "all", of: [firstLine(words)] });
  return (
    <Part
      title="Who gets it"
      tone={show ? "teal" : undefined}
      aside={
        show && (
          <span aria-live="polite">{now.count === null ? "counting…" : counted(now.count, "reader")}</span>
        )
      }
    >
      {show && (
        <p className="rounded-md border border-teal/30 bg-teal-wash/60 px-2.5 py-2 text-teal">
          <RuleSentence rule={show} words={words} />
        </p>
      )}
      {show && now.problem && <Problem>{now.problem}</Problem>}
      {show && !now.problem && !gets(show, reader, facts.audience) && (
        <p className="flex items-baseline justify-between gap-2 text-ink-soft">
          {contactName(reader)} does not get it.
          <button
            type="button"
            className="shrink-0 text-mulberry underline"
            onClick={() => void actions.showTo(node.node.id)}
          >
            Show who does
          </button>
        </p>
      )}
      {draft ? (
        <>
          <RuleEditor rule={draft} onChange={write} words={words} counts={now.parts} />
          {now.count !== null && now.names.length > 0 && (
            <p className="text-ink-soft">Such as {now.names.join(", ")}.</p>
          )}
          <Button onClick={() => setDraft(null)}>Done</Button>
        </>
      ) : show ? (
        <div className="flex gap-2">
          <Button onClick={() => setDraft(asGroup(show))}>
            <Pencil className="size-4" aria-hidden /> Change
          </Button>
          <Button kind="quiet" onClick={() => set({ show: undefined }, "Showing it to everyone")}>
            Show to everyone
          </Button>
        </div>
      ) : (
        <div className="flex items-center justify-between">
          <span className="text-ink-soft">Everyone</span>
          <Button onClick={begin}>Add a rule</Button>
        </div>
      )}
    </Part>
  );
}

/** Whether the reader meets the rule; a rule that cannot be answered is met by nobody. */
function gets(rule: Rule, reader: Contact, audience: AudienceContext): boolean {
  try {
    return predicate(rule, audience)(reader);
  } catch (error) {
    if (error instanceof RuleError) return false;
    throw error;
  }
}
