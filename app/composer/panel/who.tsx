import { Pencil } from "lucide-react";
import { useMemo, useState } from "react";
import {
  type AudienceContext,
  type Contact,
  contactName,
  predicate,
  type Rule,
  RuleError,
} from "~/core/audience";
import type { Located } from "~/core/email";
import { asGroup, RuleEditor, type RuleWords } from "../../rules/rule-editor";
import { RuleSentence } from "../../rules/rule-words";
import { useReaderCount } from "../../rules/use-reader-count";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Problem } from "../../ui/form";
import { counted } from "../../ui/time";
import { useComposer } from "../store";
import { useSet } from "./lines";
import { Part } from "./part";

/** The show rule of a block, row or section. */
export function WhoGetsIt({ node }: { node: Exclude<Located, { kind: "column" }> }) {
  const facts = useComposer((state) => state.facts);
  const reader = useComposer((state) => state.reader);
  const set = useSet(node.node.id);
  const { show } = node.node;
  const [draft, setDraft] = useState<ReturnType<typeof asGroup> | null>(null);
  const words: RuleWords = useMemo(
    () => ({
      fields: facts.fields,
      lists: facts.lists,
      segments: facts.segments,
      today: facts.audience.today,
    }),
    [facts],
  );
  const now = useReaderCount(show);
  const soon = useReaderCount(draft ?? undefined);
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
  const keep = () => {
    if (!draft) return;
    const rule: Rule | undefined =
      draft.of.length === 0
        ? undefined
        : draft.of.length === 1 && draft.kind !== "none"
          ? draft.of[0]
          : draft;
    set({ show: rule }, "Changing who gets it");
    setDraft(null);
  };
  return (
    <Part
      title="Who gets it"
      tone={show ? "teal" : undefined}
      aside={show && now.count !== null && counted(now.count, "reader")}
    >
      {show ? (
        <>
          <p className="rounded-md border border-teal/30 bg-teal-wash/60 px-2.5 py-2 text-teal">
            <RuleSentence rule={show} words={words} />
          </p>
          {now.problem ? (
            <Problem>{now.problem}</Problem>
          ) : (
            !gets(show, reader, facts.audience) && (
              <p className="text-ink-soft">{contactName(reader)} does not get it.</p>
            )
          )}
          <div className="flex gap-2">
            <Button onClick={() => setDraft(asGroup(show))}>
              <Pencil className="size-4" aria-hidden /> Change
            </Button>
            <Button kind="quiet" onClick={() => set({ show: undefined }, "Showing it to everyone")}>
              Show to everyone
            </Button>
          </div>
        </>
      ) : (
        <div className="flex items-center justify-between">
          <span className="text-ink-soft">Everyone</span>
          <Button onClick={() => setDraft({ kind: "all", of: [] })}>Add a rule</Button>
        </div>
      )}
      <Dialog
        open={draft !== null}
        onClose={() => setDraft(null)}
        title="Who gets it"
        about="Only readers who meet the rule get this part of the email."
        wide
      >
        {draft && (
          <>
            <RuleEditor rule={draft} onChange={setDraft} words={words} />
            {soon.problem && <Problem>{soon.problem}</Problem>}
            <div className="mt-4 flex items-center justify-between">
              <span className="font-medium text-teal" aria-live="polite">
                {draft.of.length === 0
                  ? "Add a line to say who."
                  : soon.count === null
                    ? "Counting…"
                    : counted(soon.count, "reader")}
              </span>
              <Button kind="primary" onClick={keep}>
                Keep the rule
              </Button>
            </div>
          </>
        )}
      </Dialog>
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
