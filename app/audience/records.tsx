import { Plus, X } from "lucide-react";
import { useState } from "react";
import { FACT_KINDS, type FactDef, type FieldDef, type RecordTable, type TableRecord } from "~/core/audience";
import { keyFor } from "~/core/tables";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog, DialogForm } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";
import { useNotify } from "../ui/notices";
import { counted } from "../ui/time";
import { fieldText } from "./columns";
import { doFields } from "./do-fields";
import { ValueInput } from "./value-input";

const FACT_NAMES: Record<FactDef["kind"], string> = {
  text: "text",
  number: "number",
  money: "money",
  date: "date",
  boolean: "yes or no",
  picture: "picture",
};

/** A fact as a field, to be shown and written like one. A picture is its address. */
const fieldOf = (fact: FactDef): FieldDef => ({
  ...fact,
  kind: fact.kind === "picture" ? "text" : fact.kind,
});

/** A table of the workspace's own, with its records. */
export function RecordsTable({
  table,
  onChange,
}: {
  table: RecordTable & { records: TableRecord[] };
  onChange(): void;
}) {
  const [editing, setEditing] = useState<TableRecord | null>(null);
  const [changing, setChanging] = useState(false);
  const { name, facts, records } = table;
  return (
    <section className="card" aria-label={name}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 px-4 py-2.5">
        <h3 className="font-semibold">{name}</h3>
        <span className="grow text-ink-soft">{counted(records.length, "record")}</span>
        <Button kind="quiet" onClick={() => setChanging(true)}>
          Change its facts
        </Button>
        <Button onClick={() => setEditing({ id: "", name: "", facts: {} })}>
          <Plus className="size-4" aria-hidden /> Record
        </Button>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys from here */}
      <section className="max-h-96 overflow-auto border-t" aria-label={`Records of ${name}`} tabIndex={0}>
        <table className="w-full">
          <thead className="sticky top-0 bg-paper text-left text-xs text-ink-soft">
            <tr className="border-b">
              <th className="px-4 py-2 font-medium">Name</th>
              {facts.map(({ key, label }) => (
                <th key={key} className="px-3 py-2 font-medium whitespace-nowrap">
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="divide-y">
            {records.map((record) => (
              <tr key={record.id}>
                <td className="px-4 py-1.5">
                  <button
                    type="button"
                    className="font-medium whitespace-nowrap hover:text-mulberry hover:underline"
                    onClick={() => setEditing(record)}
                  >
                    {record.name}
                  </button>
                </td>
                {facts.map((fact) => (
                  <td key={fact.key} className="max-w-52 truncate px-3 py-1.5 text-ink-soft">
                    {fact.kind === "picture" && record.facts[fact.key] ? (
                      <img
                        src={String(record.facts[fact.key])}
                        alt=""
                        className="h-7 w-10 rounded object-cover"
                      />
                    ) : (
                      fieldText(fieldOf(fact), record.facts[fact.key])
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {records.length === 0 && <p className="p-5 text-center text-ink-soft">No records yet.</p>}
      </section>
      {editing && (
        <RecordDialog
          table={table}
          record={editing}
          onClose={() => {
            setEditing(null);
            onChange();
          }}
        />
      )}
      {changing && (
        <TableDialog
          table={table}
          onClose={() => {
            setChanging(false);
            onChange();
          }}
        />
      )}
    </section>
  );
}

function RecordDialog({
  table,
  record,
  onClose,
}: {
  table: RecordTable;
  record: TableRecord;
  onClose(): void;
}) {
  const notify = useNotify();
  const [name, setName] = useState(record.name);
  const [facts, setFacts] = useState<Record<string, unknown>>({ ...record.facts });
  const [problem, setProblem] = useState<string | null>(null);
  const keep = (it: { id: string; name: string; facts: Record<string, unknown> }) =>
    doFields({ intent: "record", table: table.id, record: it });
  const save = async () => {
    const wrong = await keep({ id: record.id, name, facts });
    if (wrong) setProblem(wrong);
    else onClose();
  };
  const remove = async () => {
    const wrong = await doFields({ intent: "remove-record", table: table.id, id: record.id });
    if (wrong) return setProblem(wrong);
    notify({
      text: `“${record.name}” was removed: whoever points to it gets the fallback.`,
      action: {
        label: "Undo",
        run: () => void keep({ ...record, facts: { ...record.facts } }).then(onClose),
      },
    });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title={record.id === "" ? `New record in ${table.name}` : record.name}>
      <DialogForm
        submit="Save the record"
        problem={problem}
        aside={
          record.id !== "" && (
            <Button kind="danger" onClick={() => void remove()}>
              Remove
            </Button>
          )
        }
        onSubmit={() => void save()}
      >
        <Labelled label="Name">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Labelled>
        {table.facts.map((fact) => (
          <Labelled
            key={fact.key}
            label={fact.label}
            hint={
              fact.kind === "picture" ? "The address of a picture, such as one of the library." : undefined
            }
          >
            <ValueInput
              field={fieldOf(fact)}
              value={facts[fact.key]}
              onChange={(value) => setFacts((before) => ({ ...before, [fact.key]: value }))}
            />
          </Labelled>
        ))}
      </DialogForm>
    </Dialog>
  );
}

/** Names a table and its facts. */
export function TableDialog({ table, onClose }: { table: RecordTable; onClose(): void }) {
  const [name, setName] = useState(table.name);
  const [facts, setFacts] = useState<FactDef[]>(table.facts);
  const [problem, setProblem] = useState<string | null>(null);
  const set = (at: number, part: Partial<FactDef>) =>
    setFacts((before) => before.map((fact, index) => (index === at ? { ...fact, ...part } : fact)));
  const save = async () => {
    if (name.trim() === "") return setProblem("Give the table a name.");
    const known = new Set(table.facts.map(({ key }) => key));
    const taken = new Set([...known, "name"]);
    // A new fact gets its key from what it is called in the end.
    const named = facts
      .filter(({ label }) => label.trim() !== "")
      .map((fact) => {
        if (known.has(fact.key)) return { ...fact, label: fact.label.trim() };
        const key = keyFor(fact.label, taken);
        taken.add(key);
        return { ...fact, key, label: fact.label.trim(), ...(fact.kind === "money" && { currency: "GBP" }) };
      });
    const wrong = await doFields({ intent: "table", table: { id: table.id, name, facts: named } });
    if (wrong) setProblem(wrong);
    else onClose();
  };
  const remove = async () => {
    const wrong = await doFields({ intent: "remove-table", table: table.id });
    if (wrong) setProblem(wrong);
    else onClose();
  };
  return (
    <Dialog open onClose={onClose} title={table.id === "" ? "New table" : table.name}>
      <DialogForm
        submit="Save the table"
        problem={problem}
        aside={
          table.id !== "" && (
            <Button kind="danger" onClick={() => void remove()}>
              Remove the table
            </Button>
          )
        }
        onSubmit={() => void save()}
      >
        <Labelled label="Name">
          <Input placeholder="Branches" value={name} onChange={(event) => setName(event.target.value)} />
        </Labelled>
        <fieldset className="space-y-2">
          <legend className="mb-1 font-medium">What is known of each, besides its name</legend>
          {facts.map((fact, at) => (
            <div key={fact.key} className="flex gap-2">
              <Input
                aria-label={`Fact ${at + 1}`}
                value={fact.label}
                onChange={(event) => set(at, { label: event.target.value })}
              />
              <Choose
                label={`Kind of fact ${at + 1}`}
                className="w-36!"
                value={fact.kind}
                options={FACT_KINDS.map((value) => ({ value, label: FACT_NAMES[value] }))}
                onChange={(kind) => set(at, { kind })}
              />
              <IconButton
                icon={X}
                label={`Without ${fact.label || "this fact"}`}
                onClick={() => setFacts((before) => before.filter((_, index) => index !== at))}
              />
            </div>
          ))}
          <Button
            onClick={() =>
              setFacts((before) => [
                ...before,
                { key: `new_${before.length}_${Date.now()}`, label: "", kind: "text" },
              ])
            }
          >
            <Plus className="size-4" aria-hidden /> Fact
          </Button>
        </fieldset>
      </DialogForm>
    </Dialog>
  );
}
