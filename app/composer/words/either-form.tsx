import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Rule } from "~/core/audience";
import type { Either, Inline } from "~/core/email";
import { caseFor } from "~/core/personal";
import { CaseCount, CaseHead, CaseMoves, caseRule, movedCase } from "../../rules/case-head";
import { nextLine } from "../../rules/groups";
import { Button } from "../../ui/button";
import { readerWho } from "../state/reader-who";
import { useComposer, useComposerStore } from "../state/store";
import { CaseWhy } from "./case-why";
import { WordsField } from "./words-field";
import type { Chip } from "./writing";

type Attrs = Either<Inline>["attrs"];
type Case = Attrs["cases"][number];
/** Shows what was pressed in the words of a case. */
type Inner = (chip: Chip, onChip: (chip: Chip | null) => void) => React.ReactNode;

/** All cases of an either/or, each with whom it is for; the reader on the canvas is marked. */
export function EitherForm({
  attrs,
  plain,
  deep,
  inner,
  onChange,
  onRemove,
}: {
  attrs: Attrs;
  /** Whether words here have no looks, as in a subject. */
  plain: boolean;
  /** How deep it stands in others, from 1. */
  deep: number;
  inner: Inner;
  onChange(part: Partial<Attrs>): void;
  onRemove(): void;
}) {
  const facts = useComposer((state) => state.facts);
  const reader = useComposer((state) => state.reader);
  const { cases, otherwise } = attrs;
  const here = caseFor(attrs, reader, facts.audience);
  const [ruling, setRuling] = useState<number | null>(null);
  const set = (index: number, part: Partial<Case>) =>
    onChange({ cases: cases.map((one, at) => (at === index ? { ...one, ...part } : one)) });
  const move = (index: number, by: 1 | -1) => {
    setRuling(null);
    onChange({ cases: movedCase(cases, index, by) });
  };
  const whens = cases.map(({ when }) => when);
  const before = (index: number): Rule[] => whens.slice(0, index);
  return (
    <>
      <ol className="space-y-3">
        {cases.map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: cases have no identity besides their place
          <li key={index} className="space-y-1.5 rounded-md border p-2.5">
            <CaseHead
              words={facts.words}
              when={one.when}
              before={before(index)}
              ruling={ruling === index}
              onRuling={(on) => setRuling(on ? index : null)}
              onWhen={(when) => set(index, { when })}
            >
              <CaseMoves
                index={index}
                count={cases.length}
                least={1}
                onMove={(by) => move(index, by)}
                onRemove={() => {
                  setRuling(null);
                  onChange({ cases: cases.filter((_, at) => at !== index) });
                }}
              />
            </CaseHead>
            {here === index ? (
              <Here whens={whens} at={here} />
            ) : (
              <SeeOne rule={caseRule(before(index), one.when)} label={`See a reader of case ${index + 1}`} />
            )}
            <CaseWords
              words={one.words}
              plain={plain}
              deep={deep}
              inner={inner}
              label={`Words of case ${index + 1}`}
              onWords={(words) => set(index, { words })}
            />
          </li>
        ))}
        <li className="space-y-1.5 rounded-md border p-2.5">
          <div className="flex items-center gap-2">
            <p className="grow">
              <strong>Everybody else</strong>
            </p>
            <CaseCount rule={{ kind: "none", of: before(cases.length) }} />
          </div>
          {here === -1 ? (
            <Here whens={whens} at={here} />
          ) : (
            <SeeOne rule={{ kind: "none", of: whens }} label="See a reader of everybody else" />
          )}
          <CaseWords
            words={otherwise}
            plain={plain}
            deep={deep}
            inner={inner}
            label="Words for everybody else"
            onWords={(words) => onChange({ otherwise: words })}
          />
        </li>
      </ol>
      <div className="flex items-center justify-between">
        <Button
          onClick={() => {
            setRuling(cases.length);
            onChange({ cases: [...cases, { when: nextLine(facts.words, whens), words: [] }] });
          }}
        >
          <Plus className="size-4" aria-hidden /> Case
        </Button>
        <Button kind="quiet" onClick={onRemove}>
          <Trash2 className="size-4" aria-hidden /> Take it out
        </Button>
      </div>
    </>
  );
}

/** Says that it is what the reader on the canvas gets, and why. */
const Here = (case_: { whens: readonly Rule[]; at: number }) => (
  <p className="rounded-sm bg-teal-wash px-1.5 py-0.5 text-xs text-teal" data-testid="here">
    This reader
    <CaseWhy {...case_} />.
  </p>
);

/** Shows the email as somebody who gets another case. */
function SeeOne({ rule, label }: { rule: Rule; label: string }) {
  const store = useComposerStore();
  // Another rule may have readers.
  const asked = JSON.stringify(rule);
  const [nobody, setNobody] = useState<string | null>(null);
  const see = async (button: HTMLElement) => {
    const words = button.closest("li")?.querySelector<HTMLElement>("[role=textbox]");
    const reader = await readerWho(store.getState(), rule);
    setNobody(reader ? null : asked);
    // The button goes; whoever pressed it goes on in the words of this case.
    words?.focus();
    if (reader) store.getState().set({ reader });
  };
  if (nobody === asked) return <p className="text-xs text-ink-soft">No reader was found who gets this.</p>;
  return (
    <button
      type="button"
      aria-label={label}
      className="text-xs text-teal underline"
      onClick={({ currentTarget }) => void see(currentTarget)}
    >
      See a reader
    </button>
  );
}

/** The words of a case, edited here; an either/or may stand in them, too. */
function CaseWords({
  words,
  plain,
  deep,
  inner,
  label,
  onWords,
}: {
  words: readonly Inline[];
  plain: boolean;
  deep: number;
  inner: Inner;
  label: string;
  onWords(words: Inline[]): void;
}) {
  const [chip, setChip] = useState<Chip | null>(null);
  return (
    <>
      <WordsField
        kind={plain ? "plain" : "line"}
        words={[...words]}
        deep={deep}
        label={label}
        placeholder="nothing"
        onWords={(next) => onWords(next as Inline[])}
        onChip={(editor, at, place) => setChip({ editor, at, place })}
        className="own-words rounded-md border bg-paper px-2.5 py-1.5 focus-within:outline-2 focus-within:outline-mulberry"
      />
      {chip && inner(chip, setChip)}
    </>
  );
}
