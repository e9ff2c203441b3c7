import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { readCodes } from "~/core/sources";
import { keyFor } from "~/core/tables";
import type { CodeBatch, CodeStock, CodesAdded } from "~/server/sources/codes";
import { type Taken, tell } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Dialog, DialogForm } from "../ui/dialog";
import { FileButton } from "../ui/file-button";
import { Area, Choice, Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { NumberField } from "../ui/number-field";
import { Progress } from "../ui/progress";
import { count, counted } from "../ui/time";
import { DayField } from "../ui/when-field";

const PER = {
  campaign: "One for each campaign",
  ever: "One for ever",
} as const;

/** The lines of a file that hold no code, and why. */
function Rejected({ rejected }: Pick<CodesAdded, "rejected">) {
  if (rejected.length === 0) return null;
  return (
    <div className="rounded-md bg-amber-wash px-3 py-2 text-amber" role="status">
      <p className="font-medium">{counted(rejected.length, "line holds", "lines hold")} no code:</p>
      <ul className="mt-1 max-h-32 overflow-y-auto">
        {rejected.slice(0, 50).map(({ line, text, why }) => (
          <li key={line}>
            Line {line}, “{text}”: {why}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A file or pasted lines of codes, looked through as soon as they are there. */
function CodesInput({ text, onText }: { text: string; onText(text: string): void }) {
  const list = text === "" ? null : readCodes(text);
  return (
    <div
      role="group"
      aria-label="Codes to bring in"
      className="space-y-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void event.dataTransfer.files[0]?.text().then(onText);
      }}
    >
      <Labelled
        label="Codes"
        hint="One to a line: pasted, or a TXT or CSV file of one column, chosen or dropped here."
      >
        <Area
          className="h-28 py-2 font-mono text-xs"
          spellCheck={false}
          value={text.length > 4000 ? `${text.slice(0, 4000)}…` : text}
          readOnly={text.length > 4000}
          placeholder={"TANSY-4F7K\nTANSY-9QWD"}
          onChange={(event) => onText(event.target.value)}
        />
      </Labelled>
      <div className="flex items-center gap-3">
        <FileButton
          label="Choose a file"
          accept=".txt,.csv,text/plain,text/csv"
          onFile={(file) => void file.text().then(onText)}
        />
        {list && (
          <span className="text-ink-soft" aria-live="polite">
            {counted(list.codes.length, "code")}
          </span>
        )}
      </div>
      {list && <Rejected rejected={list.rejected} />}
    </div>
  );
}

function BatchFields({
  batch,
  made,
  onChange,
}: {
  batch: CodeBatch;
  made: boolean;
  onChange(part: Partial<CodeBatch>): void;
}) {
  return (
    <>
      <Labelled label="Name">
        <Input
          value={batch.name}
          maxLength={100}
          placeholder="Spring codes"
          onChange={(event) => onChange({ name: event.target.value })}
        />
      </Labelled>
      {!made && (
        <div>
          <p className="mb-1 font-medium">Each reader gets</p>
          <Choice
            label="Each reader gets"
            value={batch.per}
            options={[
              { value: "campaign", label: PER.campaign },
              { value: "ever", label: PER.ever },
            ]}
            onChange={(per) => onChange({ per })}
          />
        </div>
      )}
      <div className="grid grid-cols-3 gap-3 max-sm:grid-cols-1">
        <Labelled label="Example" hint="What proofs show. It must be worth nothing.">
          <Input
            className="font-mono"
            value={batch.example}
            maxLength={100}
            onChange={(event) => onChange({ example: event.target.value })}
          />
        </Labelled>
        <Labelled label="Tell me below" hint="Before a sending leaves fewer.">
          <NumberField max={10_000_000} value={batch.low} onChange={(low) => onChange({ low })} />
        </Labelled>
        <Labelled label="Good until" hint="The last day, if there is one.">
          <DayField
            label="Good until"
            value={batch.ends ?? ""}
            onChange={(day) => onChange({ ends: day || null })}
          />
        </Labelled>
      </div>
    </>
  );
}

/** Makes a batch from a list of codes. */
export function NewBatch({ taken, onClose }: { taken: readonly string[]; onClose(made?: string): void }) {
  const [batch, setBatch] = useState<CodeBatch>({
    key: "",
    name: "",
    per: "campaign",
    example: "EXAMPLE-CODE",
    low: 0,
    ends: null,
  });
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const notify = useNotify();
  const save = async () => {
    if (batch.name.trim() === "") return setProblem("Give the batch a name.");
    if (batch.example.trim() === "") return setProblem("Give an example for proofs to show.");
    setBusy(true);
    const key = keyFor(batch.name, new Set(taken));
    const { problem: wrong, result } = await tell("/sources/codes", {
      intent: "add",
      batch: { ...batch, key },
      text,
    });
    setBusy(false);
    if (wrong) return setProblem(wrong);
    notify({ text: `“${batch.name}” has ${counted(result?.added ?? 0, "code")}.` });
    onClose(key);
  };
  return (
    <Dialog open onClose={() => onClose()} title="New batch of codes" wide>
      <DialogForm
        submit={busy ? "Bringing the codes in…" : "Make the batch"}
        disabled={busy || text.trim() === ""}
        problem={problem}
        onSubmit={() => void save()}
      >
        <BatchFields batch={batch} made={false} onChange={(part) => setBatch({ ...batch, ...part })} />
        <CodesInput
          text={text}
          onText={(next) => {
            setProblem(null);
            setText(next);
          }}
        />
      </DialogForm>
    </Dialog>
  );
}

/** How much of a batch is left, in words. */
export const stockWords = ({ free, total }: Pick<CodeStock, "free" | "total">) =>
  `${count(free)} of ${count(total)} left`;

/** One batch: what is left of it, what it is called, and more codes. */
export function OneBatch({ batch, onChange }: { batch: CodeStock; onChange(): void }) {
  const [draft, setDraft] = useState<CodeBatch>(batch);
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const notify = useNotify();
  const { key, name, total, free, low, per } = batch;
  const changed = (["name", "example", "low", "ends"] as const).some((part) => draft[part] !== batch[part]);
  const act = async (body: Taken<"/sources/codes">, done: (result: CodesAdded | null) => string) => {
    setBusy(true);
    const { problem: wrong, result } = await tell("/sources/codes", body);
    setBusy(false);
    setProblem(wrong);
    if (wrong) return;
    notify({ text: done(result ?? null) });
    onChange();
  };
  const putAway = async (away: boolean) => {
    const { problem: wrong } = await tell("/sources/codes", { intent: "put-away", key, away });
    if (wrong) return notify({ text: wrong, bad: true });
    notify(
      away
        ? {
            text: `“${name}” was removed. Those who have a code keep it.`,
            action: { label: "Undo", run: () => void putAway(false) },
          }
        : { text: `“${name}” is back.` },
    );
    onChange();
  };
  return (
    <section className="card space-y-4 p-4" aria-label={name}>
      <div className="flex items-center gap-2">
        <h2 className="grow text-[15px] font-semibold">{name}</h2>
        <span className="text-ink-soft">{PER[per]}</span>
        <IconButton icon={Trash2} label={`Remove “${name}”`} onClick={() => void putAway(true)} />
      </div>
      <div className="space-y-1.5">
        <p>
          <span className="text-[22px]/7 font-semibold">{count(free)}</span>{" "}
          <span className="text-ink-soft">
            of {counted(total, "code")} left, {count(total - free)} handed out
          </span>
        </p>
        <Progress share={total === 0 ? 0 : (total - free) / total} label="Handed out" />
        {free < low && (
          <Problem mild>
            Fewer than {count(low)} are left. Add codes before the next sending needs them.
          </Problem>
        )}
      </div>
      <p className="text-ink-soft">
        In words with <kbd>@</kbd>; in addresses and code blocks:{" "}
        <code className="font-mono text-xs">{`{$code.${key}}`}</code>
      </p>
      <BatchFields batch={draft} made onChange={(part) => setDraft({ ...draft, ...part })} />
      {changed && (
        <Button
          disabled={busy}
          onClick={() => void act({ intent: "change", batch: draft }, () => `“${draft.name}” is saved.`)}
        >
          Save
        </Button>
      )}
      <CodesInput text={text} onText={setText} />
      {problem && <Problem>{problem}</Problem>}
      <Button
        kind="primary"
        disabled={busy || text.trim() === ""}
        onClick={() =>
          void act({ intent: "more", key, text }, (result) => {
            setText("");
            return `${counted(result?.added ?? 0, "code")} added.`;
          })
        }
      >
        <Plus className="size-4" aria-hidden /> {busy ? "Bringing the codes in…" : "Add the codes"}
      </Button>
    </section>
  );
}
