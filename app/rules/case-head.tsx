import { ArrowDown, ArrowUp, Pencil, Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import type { Rule } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";
import { Button, IconButton } from "../ui/button";
import { Problem } from "../ui/form";
import { counted } from "../ui/time";
import { asGroup, type Group, ruleOf } from "./groups";
import { RuleEditor } from "./rule-editor";
import { RuleSentence } from "./rule-words";
import { useReaderCount } from "./use-reader-count";

/** Whom a case is for: those who meet its rule and none of those that are tried before. */
export const caseRule = (before: Rule[], when: Rule): Rule =>
  before.length === 0 ? when : { kind: "all", of: [{ kind: "none", of: before }, when] };

/** How many readers get a case: those who meet its rule and none before. */
export function CaseCount({ rule }: { rule: Rule }) {
  const now = useReaderCount(rule);
  return (
    <span className="shrink-0 text-xs text-ink-soft" aria-live="polite">
      {now.problem ? "?" : now.count === null ? "…" : counted(now.count, "reader")}
    </span>
  );
}

/** Whom a case is for, as a sentence; pressed, it is written. */
export function CaseHead({
  words,
  when,
  before,
  ruling,
  onRuling,
  onWhen,
  children,
}: {
  words: RuleWords;
  when: Rule;
  /** The rules of the cases that are tried before. */
  before: Rule[];
  ruling: boolean;
  onRuling(on: boolean): void;
  onWhen(when: Rule): void;
  children: React.ReactNode;
}) {
  const [draft, setDraft] = useState(() => asGroup(when));
  const now = useReaderCount(ruling ? draft : undefined);
  // Written elsewhere, by undo or the other order of cases, it begins anew.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only opening it begins anew
  useEffect(() => setDraft(asGroup(when)), [ruling]);
  const write = (next: Group) => {
    setDraft(next);
    const rule = ruleOf(next);
    if (rule) onWhen(rule);
  };
  return (
    <>
      <div className="flex flex-wrap items-start gap-2">
        <button
          type="button"
          aria-expanded={ruling}
          className="group flex min-w-40 grow basis-40 items-baseline gap-1.5 text-left"
          onClick={() => onRuling(!ruling)}
        >
          <span className="min-w-0">
            <RuleSentence rule={when} words={words} />
          </span>
          <Pencil className="size-3 shrink-0 text-ink-soft group-hover:text-ink" aria-hidden />
        </button>
        <CaseCount rule={caseRule(before, when)} />
        <span className="flex shrink-0">{children}</span>
      </div>
      {ruling && (
        <div className="space-y-2 border-t pt-2">
          <RuleEditor rule={draft} onChange={write} words={words} counts={now.parts} />
          {now.problem && <Problem>{now.problem}</Problem>}
          <Button onClick={() => onRuling(false)}>Done</Button>
        </div>
      )}
    </>
  );
}

/** The same cases with one of them a place earlier or later. */
export function movedCase<T>(cases: readonly T[], index: number, by: 1 | -1): T[] {
  const next = [...cases];
  [next[index], next[index + by]] = [next[index + by], next[index]];
  return next;
}

/** Tries a case earlier or later, or takes it away. */
export function CaseMoves({
  index,
  count,
  least = 0,
  onMove,
  onRemove,
}: {
  index: number;
  count: number;
  /** So many have to stay. */
  least?: number;
  onMove(by: 1 | -1): void;
  onRemove(): void;
}) {
  return (
    <>
      <IconButton
        icon={ArrowUp}
        small
        label="Try it earlier"
        className="size-6!"
        disabled={index === 0}
        onClick={() => onMove(-1)}
      />
      <IconButton
        icon={ArrowDown}
        small
        label="Try it later"
        className="size-6!"
        disabled={index === count - 1}
        onClick={() => onMove(1)}
      />
      <IconButton
        icon={Trash2}
        small
        label="Remove this case"
        className="size-6!"
        disabled={count <= least}
        onClick={onRemove}
      />
    </>
  );
}
