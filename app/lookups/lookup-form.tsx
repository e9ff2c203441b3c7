import { Plus } from "lucide-react";
import { useState } from "react";
import type { Rule } from "~/core/audience";
import { LOOKUP_PARTS, type Lookup, type LookupKind, type LookupValue } from "~/core/email";
import { keyFor } from "~/core/tables";
import type { RuleWords } from "~/server/audience/words";
import { ChoosePicture } from "../pictures/choose-picture";
import type { DataFacts } from "../readers/reader-data";
import { CaseCount, CaseHead, CaseMoves, movedCase } from "../rules/case-head";
import { nextLine } from "../rules/groups";
import { Button } from "../ui/button";
import { Choice, type Editing, Input, Labelled, Line, Problem, useFieldId } from "../ui/form";
import { TypedInput } from "../ui/typed-field";
import { useUnsaved } from "../ui/unsaved";

export const KINDS: Record<LookupKind, string> = {
  text: "Words",
  link: "A link",
  picture: "A picture",
  person: "A person",
};

const PART_LABELS: Record<string, { label: string; placeholder: string }> = {
  text: { label: "Says", placeholder: "open until six" },
  address: { label: "Address", placeholder: "https://" },
  alt: { label: "Alt text", placeholder: "what it shows" },
  name: { label: "Name", placeholder: "Ottilie Marsh" },
  picture: { label: "Picture", placeholder: "" },
  portrait: { label: "Portrait", placeholder: "" },
};

/** What a lookup says to whom, case by case. */
export function LookupForm({
  lookup,
  taken,
  words,
  data,
  onSave,
}: {
  /** Null for a new one. */
  lookup: Lookup | null;
  taken: readonly string[];
  words: RuleWords;
  data: DataFacts;
  /** Says what went wrong, or null. */
  onSave(lookup: Lookup): Promise<string | null>;
}) {
  const [draft, setDraft] = useState<Lookup>(
    () => lookup ?? { key: "", name: "", kind: "text", cases: [], otherwise: {} },
  );
  const [ruling, setRuling] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { cases, kind, otherwise } = draft;
  const change = (part: Partial<Lookup>) => {
    setProblem(null);
    setDraft({ ...draft, ...part });
  };
  const setCase = (index: number, part: Partial<Lookup["cases"][number]>) =>
    change({ cases: cases.map((one, at) => (at === index ? { ...one, ...part } : one)) });
  const move = (index: number, by: 1 | -1) => {
    setRuling(null);
    change({ cases: movedCase(cases, index, by) });
  };
  const before = (index: number): Rule[] => cases.slice(0, index).map(({ when }) => when);
  const changed = JSON.stringify(draft) !== JSON.stringify(lookup);
  useUnsaved(changed && !busy && (lookup !== null || draft.name !== "" || cases.length > 0));
  const save = async () => {
    if (draft.name.trim() === "") return setProblem("Give the lookup a name.");
    setBusy(true);
    setProblem(
      await onSave({
        ...draft,
        key: draft.key || keyFor(draft.name, new Set(taken)),
        name: draft.name.trim(),
      }),
    );
    setBusy(false);
  };
  return (
    <section
      className="card min-w-0 space-y-4 p-5 max-sm:p-3"
      aria-label={lookup ? lookup.name : "New lookup"}
    >
      <div className="flex flex-wrap items-start gap-x-6 gap-y-3">
        <div className="min-w-60 grow">
          <Labelled
            label="Name"
            hint={lookup ? `In code blocks and addresses: {$lookup.${lookup.key}}` : "What tags call it"}
          >
            <Input
              autoFocus={!lookup}
              value={draft.name}
              maxLength={100}
              placeholder="Branch phone"
              onChange={(event) => change({ name: event.target.value })}
            />
          </Labelled>
        </div>
        {lookup ? (
          <p className="pt-7 text-ink-soft">{KINDS[kind]}</p>
        ) : (
          <div className="w-96 max-w-full">
            <p className="mb-1 font-medium">What it says</p>
            <Choice
              label="What it says"
              value={kind}
              options={(Object.keys(KINDS) as LookupKind[]).map((value) => ({ value, label: KINDS[value] }))}
              onChange={(next) =>
                change({ kind: next, otherwise: {}, cases: cases.map((one) => ({ ...one, value: {} })) })
              }
            />
          </div>
        )}
      </div>
      <p className="text-ink-soft">The first case that fits a reader is theirs.</p>
      <ol className="space-y-3">
        {cases.map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: cases have no identity besides their place
          <li key={index} className="space-y-2 rounded-md border p-3">
            <CaseHead
              words={words}
              when={one.when}
              before={before(index)}
              ruling={ruling === index}
              onRuling={(on) => setRuling(on ? index : null)}
              onWhen={(when) => setCase(index, { when })}
            >
              <CaseMoves
                index={index}
                count={cases.length}
                onMove={(by) => move(index, by)}
                onRemove={() => {
                  setRuling(null);
                  change({ cases: cases.filter((_, at) => at !== index) });
                }}
              />
            </CaseHead>
            <ValueFields
              kind={kind}
              value={one.value}
              data={data}
              onChange={(value) => setCase(index, { value })}
            >
              <Line label="Called">
                <Input
                  value={one.name}
                  maxLength={100}
                  placeholder={`Case ${index + 1}`}
                  onChange={(event) => setCase(index, { name: event.target.value })}
                />
              </Line>
            </ValueFields>
          </li>
        ))}
        <li className="space-y-2 rounded-md border p-3">
          <div className="flex items-center gap-2">
            <p className="grow">
              <strong>Everybody else</strong>
            </p>
            <CaseCount rule={{ kind: "none", of: before(cases.length) }} />
          </div>
          <ValueFields
            kind={kind}
            value={otherwise}
            data={data}
            onChange={(value) => change({ otherwise: value })}
          />
        </li>
      </ol>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex items-center justify-between">
        <Button
          onClick={() => {
            setRuling(cases.length);
            change({
              cases: [
                ...cases,
                {
                  name: "",
                  when: nextLine(
                    words,
                    cases.map(({ when }) => when),
                  ),
                  value: {},
                },
              ],
            });
          }}
        >
          <Plus className="size-4" aria-hidden /> Case
        </Button>
        <Button kind="primary" disabled={busy || !changed} onClick={() => void save()}>
          {busy ? "Saving…" : "Save the lookup"}
        </Button>
      </div>
    </section>
  );
}

/** The parts of one value. */
function ValueFields({
  kind,
  value,
  data,
  onChange,
  children,
}: Editing<LookupValue> & {
  kind: LookupKind;
  data: DataFacts;
  children?: React.ReactNode;
}) {
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-2 max-md:grid-cols-1">
      {children}
      {LOOKUP_PARTS[kind].map((part) => {
        const set = (text: string) => onChange({ ...value, [part]: text });
        const text = value[part] ?? "";
        const { label, placeholder } = PART_LABELS[part];
        return (
          <Line key={part} label={label}>
            {part === "picture" || part === "portrait" ? (
              <PictureValue src={text} onChange={set} />
            ) : (
              <TypedInput
                value={text}
                data={data}
                maxLength={2000}
                placeholder={kind === "person" && part === "address" ? "name@…" : placeholder}
                onChange={set}
              />
            )}
          </Line>
        );
      })}
    </div>
  );
}

/** A picture of the library. */
function PictureValue({ src, onChange }: { src: string; onChange(src: string): void }) {
  const id = useFieldId(undefined);
  const [choosing, setChoosing] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {src !== "" && <img src={src} alt="" className="size-10 rounded-md border object-cover" />}
      <Button id={id} onClick={() => setChoosing(true)}>
        {src === "" ? "Choose a picture" : "Choose another"}
      </Button>
      {src !== "" && (
        <Button kind="quiet" onClick={() => onChange("")}>
          Take it out
        </Button>
      )}
      <ChoosePicture
        open={choosing}
        onClose={() => setChoosing(false)}
        onChoose={({ path }) => onChange(path)}
      />
    </div>
  );
}
