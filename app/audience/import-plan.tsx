import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import type { FieldDef } from "~/core/audience";
import { guessColumns, lineReader, newFieldsOf, type Plan } from "~/core/importing";
import { DECODERS, type Encoding } from "~/core/tables";
import type { FileFacts, Reading } from "~/server/audience/import-file";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Popover } from "../ui/floating";
import { Input, Problem } from "../ui/form";
import { Progress } from "../ui/progress";
import { Switch } from "../ui/switch";
import { count, counted } from "../ui/time";
import { DayField } from "../ui/when-field";
import { fieldText } from "./columns";
import { ImportColumns } from "./import-columns";
import { RejectedList } from "./rejected-list";
import { StatusWords } from "./status-words";
import { type Checking, useCheck } from "./use-check";

const DELIMITERS: Record<NonNullable<Reading["delimiter"]>, string> = {
  ",": "commas",
  ";": "semicolons",
  "\t": "tabs",
  "|": "upright strokes",
};

function firstPlan(file: FileFacts, fields: readonly FieldDef[]): Plan {
  return {
    columns: guessColumns(file.columns, fields),
    known: "fill",
    lists: [],
    newList: "",
    consent: { source: "", date: "" },
    lenient: false,
  };
}

/** What a file becomes, and what will happen, before it does. */
export function ImportPlan({
  file,
  fields,
  lists,
  onForgotten,
}: {
  file: FileFacts;
  fields: readonly FieldDef[];
  lists: readonly { id: string; name: string }[];
  onForgotten(): void;
}) {
  const fetcher = useFetcher<{ problem: string | null; result: { done: string } | null }>();
  const [plan, setPlan] = useState<Plan>(() => firstPlan(file, fields));
  const checking = useCheck(file.id, plan);
  const set = (part: Partial<Plan>) => setPlan((before) => ({ ...before, ...part }));
  const submit = (body: unknown) =>
    fetcher.submit(JSON.stringify(body), { method: "post", encType: "application/json" });
  useEffect(() => {
    if (fetcher.data?.result?.done === "forget") onForgotten();
  }, [fetcher.data, onForgotten]);
  const left = plan.columns.filter(({ target }) => target.to === "nothing").length;
  const busy = fetcher.state !== "idle";
  return (
    <>
      <div className="-mt-3 mb-4 flex flex-wrap items-center gap-3">
        <p className="text-ink-soft">
          {[
            counted(file.lines, file.reading.delimiter === null ? "card" : "line"),
            file.reading.delimiter === null ? "vCards" : DELIMITERS[file.reading.delimiter],
            DECODERS[file.reading.encoding],
            ...(file.reading.delimiter === null
              ? []
              : [file.reading.header ? "the first line names the columns" : "no line of names"]),
          ].join(" · ")}
        </p>
        {file.reading.delimiter !== null && (
          <ReadDifferently reading={file.reading} onRead={(reading) => submit({ intent: "read", reading })} />
        )}
      </div>
      {fetcher.data?.problem && !busy && (
        <div className="mb-4">
          <Problem>{fetcher.data.problem}</Problem>
        </div>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_320px] items-start gap-5 max-lg:grid-cols-1">
        <div className="space-y-4">
          <div className="card">
            <ImportColumns
              columns={file.columns}
              lines={file.lines}
              plan={plan.columns}
              fields={fields}
              onChange={(columns) => set({ columns })}
            />
            {left > 0 && (
              <p className="border-t px-4 py-2 text-xs text-ink-soft">{counted(left, "column")} left out.</p>
            )}
          </div>
          <StatusWords
            words={checking.check?.words ?? null}
            columns={plan.columns}
            onChange={(columns) => set({ columns })}
          />
          <Wishes plan={plan} lists={lists} onChange={set} />
          <Preview file={file} plan={plan} fields={fields} />
        </div>
        <aside className="space-y-4 lg:sticky lg:top-5">
          <WhatHappens
            checking={checking}
            lines={file.lines}
            busy={busy}
            onRun={() => submit({ intent: "run", plan })}
            onCancel={() => submit({ intent: "forget" })}
          />
          {checking.check && checking.check.counts.rejected > 0 && (
            <RejectedList rejected={checking.check.rejected} total={checking.check.counts.rejected} />
          )}
        </aside>
      </div>
    </>
  );
}

function ReadDifferently({ reading, onRead }: { reading: Reading; onRead(reading: Reading): void }) {
  const [draft, setDraft] = useState(reading);
  return (
    <Popover
      label="How the file is read"
      align="start"
      className="w-72 space-y-3"
      button={<Button>It is read wrongly…</Button>}
    >
      <Choose
        label="What parts the cells"
        value={draft.delimiter ?? ","}
        options={(Object.keys(DELIMITERS) as (keyof typeof DELIMITERS)[]).map((value) => ({
          value,
          label: `Parted by ${DELIMITERS[value]}`,
        }))}
        onChange={(delimiter) => setDraft({ ...draft, delimiter })}
      />
      <Choose
        label="Encoding"
        value={draft.encoding}
        options={(Object.keys(DECODERS) as Encoding[]).map((value) => ({
          value,
          label: value === "utf-16be" ? "UTF-16, big end first" : DECODERS[value],
        }))}
        onChange={(encoding) => setDraft({ ...draft, encoding })}
      />
      <Switch checked={draft.header} onChange={(header) => setDraft({ ...draft, header })}>
        The first line names the columns
      </Switch>
      <Button kind="primary" onClick={() => onRead(draft)}>
        Read it so
      </Button>
    </Popover>
  );
}

/** What is wished for everybody in the file. */
function Wishes({
  plan,
  lists,
  onChange,
}: {
  plan: Plan;
  lists: readonly { id: string; name: string }[];
  onChange(part: Partial<Plan>): void;
}) {
  const line = "flex flex-wrap items-center gap-x-3 gap-y-1.5";
  return (
    <section className="card space-y-3 p-4" aria-label="For everybody in it">
      <div className={line}>
        <span className="w-44 text-ink-soft">Put them on</span>
        {plan.lists.map((id) => (
          <Button key={id} onClick={() => onChange({ lists: plan.lists.filter((one) => one !== id) })}>
            {lists.find((list) => list.id === id)?.name ?? id} ×
          </Button>
        ))}
        <Choose
          label="A list for everybody"
          className="w-44!"
          value=""
          placeholder="a list…"
          options={lists
            .filter(({ id }) => !plan.lists.includes(id))
            .map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id) => onChange({ lists: [...plan.lists, id] })}
        />
        <Input
          aria-label="Name of a new list for everybody"
          placeholder="or a new list"
          className="w-44!"
          value={plan.newList}
          onChange={(event) => onChange({ newList: event.target.value })}
        />
      </div>
      <div className={line}>
        <span className="w-44 text-ink-soft">They agreed</span>
        <Input
          aria-label="How they agreed"
          placeholder="how: on paper, in the shop…"
          className="w-64!"
          value={plan.consent.source}
          onChange={(event) => onChange({ consent: { ...plan.consent, source: event.target.value } })}
        />
        <DayField
          label="When they agreed"
          className="w-40!"
          value={plan.consent.date}
          onChange={(date) => onChange({ consent: { ...plan.consent, date } })}
        />
      </div>
      <div className={line}>
        <span className="w-44 text-ink-soft">Of known addresses</span>
        <Choose
          label="What becomes of known addresses"
          className="w-64!"
          value={plan.known}
          options={[
            { value: "fill", label: "fill gaps only" },
            { value: "update", label: "what the file says counts" },
            { value: "keep", label: "leave them as they are" },
          ]}
          onChange={(known) => onChange({ known })}
        />
      </div>
      <Switch checked={plan.lenient} onChange={(lenient) => onChange({ lenient })}>
        Take a line without a value that does not fit
      </Switch>
    </section>
  );
}

/** The first lines as they will be. */
function Preview({ file, plan, fields }: { file: FileFacts; plan: Plan; fields: readonly FieldDef[] }) {
  const all = [...fields, ...newFieldsOf(plan)];
  const read = lineReader(
    plan,
    file.columns.map(({ name }) => name),
    all,
    new Date().getUTCFullYear(),
  );
  const shown = plan.columns.flatMap(({ target }) => {
    const key = target.to === "field" ? target.field : target.to === "new" ? target.field.key : null;
    return all.find((field) => field.key === key) ?? [];
  });
  if (shown.length === 0) return null;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys from here
    <section className="card overflow-x-auto" aria-label="The first lines as they will be" tabIndex={0}>
      <h2 className="px-4 pt-3 pb-1 font-semibold">The first lines as they will be</h2>
      <table className="w-full">
        <thead className="text-left text-xs text-ink-soft">
          <tr className="border-b">
            <th className="px-4 py-1.5 text-right font-medium">Line</th>
            {shown.map(({ key, label }) => (
              <th key={key} className="px-3 py-1.5 font-medium whitespace-nowrap">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="divide-y">
          {file.samples.slice(0, 6).map(({ line, cells }) => {
            const it = read(cells);
            return (
              <tr key={line}>
                <td className="px-4 py-1.5 text-right text-ink-soft">{count(line)}</td>
                {"reason" in it ? (
                  <td colSpan={shown.length} className="px-3 py-1.5 text-red">
                    {it.reason}
                  </td>
                ) : (
                  shown.map((field) => (
                    <td key={field.key} className="max-w-48 truncate px-3 py-1.5">
                      {field.key === "email" ? it.given.email : fieldText(field, it.given.fields[field.key])}
                    </td>
                  ))
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function WhatHappens({
  checking: { check, problem, seen },
  lines,
  busy,
  onRun,
  onCancel,
}: {
  checking: Checking;
  lines: number;
  busy: boolean;
  onRun(): void;
  onCancel(): void;
}) {
  const counts = check?.counts;
  const taken = counts ? counts.made + counts.changed : 0;
  const unknown = check?.words.filter(({ meaning }) => meaning === null).length ?? 0;
  return (
    <section className="card p-4" aria-label="What will happen">
      <h2 className="mb-3 text-[15px] font-semibold">What will happen</h2>
      <div aria-live="polite">
        {problem && <Problem>{problem}</Problem>}
        {!counts && !problem && (
          <div className="space-y-2 text-ink-soft">
            <p>
              Looking at {count(Math.min(seen, lines))} of {counted(lines, "line")}…
            </p>
            <Progress label="Working out what will happen" share={lines > 0 ? seen / lines : null} />
          </div>
        )}
        {counts && (
          <dl className="space-y-1.5">
            <Tally of={counts.made} words="new contacts" strong />
            <Tally of={counts.changed} words="known, something new" />
            <Tally of={counts.same} words="known, nothing new" soft />
            <Tally of={counts.again} words="lines about an address once more" soft />
            <Tally of={counts.suppressed} words="cannot be written to: stay so" tone="text-amber" />
            <Tally of={counts.lessened} words="taken without a value" tone="text-amber" />
            <Tally of={counts.rejected} words="lines cannot be taken" tone="text-red" />
          </dl>
        )}
        {check && check.newLists.length > 0 && (
          <p className="mt-2 text-ink-soft">New lists: {check.newLists.join(", ")}.</p>
        )}
      </div>
      {unknown > 0 && (
        <p className="mt-3 text-amber" role="status">
          Say first what {counted(unknown, "word means", "words mean")}: nobody is subscribed by a guess.
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="primary" disabled={!counts || taken === 0 || unknown > 0 || busy} onClick={onRun}>
          {counts ? `Bring in ${count(taken)}` : "Bring in"}
        </Button>
        <Button disabled={busy} onClick={onCancel}>
          Cancel
        </Button>
      </div>
      <p className="mt-3 text-xs text-ink-soft">Can be taken back as a whole afterwards.</p>
    </section>
  );
}

export function Tally({
  of,
  words,
  strong,
  soft,
  tone = "",
}: {
  of: number;
  words: string;
  strong?: boolean;
  soft?: boolean;
  tone?: string;
}) {
  if (of === 0 && !strong) return null;
  return (
    <div className={`flex gap-3 ${tone} ${soft ? "text-ink-soft" : ""}`}>
      <dd className={`w-16 text-right ${strong ? "font-semibold" : "font-medium"}`}>{count(of)}</dd>
      <dt>{words}</dt>
    </div>
  );
}
