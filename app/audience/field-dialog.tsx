import { useState } from "react";
import type { FieldDef, FieldKind } from "~/core/audience";
import { keyFor } from "~/core/tables";
import { Choose } from "../ui/choose";
import { Dialog, DialogForm } from "../ui/dialog";
import { Area, Input, Labelled } from "../ui/form";
import { doFields } from "./do-fields";
import { KIND_NAMES } from "./import-columns";

export interface FieldDraft {
  /** Null for a new one. */
  field: FieldDef | null;
}

const CURRENCIES = Intl.supportedValuesOf("currency");
const USUAL = ["GBP", "EUR", "USD"];

/** Makes a field or changes it; of what kind it is, is settled when it is made. */
export function FieldDialog({
  draft: { field },
  tables,
  taken,
  onClose,
}: {
  draft: FieldDraft;
  tables: readonly { id: string; name: string }[];
  taken: readonly string[];
  onClose(): void;
}) {
  const [label, setLabel] = useState(field?.label ?? "");
  const [kind, setKind] = useState<FieldKind>(field?.kind ?? "text");
  const [choices, setChoices] = useState((field?.options ?? []).map((option) => option.label).join("\n"));
  const [currency, setCurrency] = useState(field?.currency ?? "GBP");
  const [table, setTable] = useState(field?.table ?? tables[0]?.id ?? "");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const save = async () => {
    if (label.trim() === "") return setProblem("Give the field a name.");
    const lines = choices
      .split("\n")
      .map((line) => line.trim())
      .filter((line) => line !== "");
    // A choice that is written differently now is still the same one.
    const options = lines.map(
      (line) => field?.options?.find((option) => option.label === line) ?? { value: line, label: line },
    );
    const made: FieldDef = {
      key: field?.key ?? keyFor(label, new Set(taken)),
      label: label.trim(),
      kind,
      ...((kind === "choice" || kind === "set") && options.length > 0 && { options }),
      ...(kind === "money" && { currency }),
      ...(kind === "record" && { table }),
    };
    setBusy(true);
    const wrong = await doFields({ intent: "field", field: made });
    setBusy(false);
    if (wrong) setProblem(wrong);
    else onClose();
  };
  return (
    <Dialog open onClose={onClose} title={field ? field.label : "New field"}>
      <DialogForm submit="Save the field" disabled={busy} problem={problem} onSubmit={() => void save()}>
        <Labelled label="Name">
          <Input value={label} onChange={(event) => setLabel(event.target.value)} />
        </Labelled>
        <Labelled
          label="What it holds"
          hint={field ? "Settled when the field was made: contacts have values of it." : undefined}
        >
          <Choose
            label="What it holds"
            disabled={field !== null}
            value={kind}
            options={(Object.keys(KIND_NAMES) as FieldKind[]).map((value) => ({
              value,
              label: value === "record" ? "a record of a table" : KIND_NAMES[value],
              disabled: value === "record" && tables.length === 0,
            }))}
            onChange={(next) => setKind(next)}
          />
        </Labelled>
        {(kind === "choice" || kind === "set") && (
          <Labelled label="The choices, one to a line">
            <Area
              className="h-32 py-2"
              value={choices}
              onChange={(event) => setChoices(event.target.value)}
            />
          </Labelled>
        )}
        {kind === "money" && (
          <Labelled label="Currency">
            <Choose
              label="Currency"
              value={currency}
              options={[...USUAL, ...CURRENCIES.filter((code) => !USUAL.includes(code))].map((value) => ({
                value,
                label: value,
              }))}
              onChange={setCurrency}
            />
          </Labelled>
        )}
        {kind === "record" && (
          <Labelled label="Table">
            <Choose
              label="Table"
              value={table}
              options={tables.map((one) => ({ value: one.id, label: one.name }))}
              onChange={setTable}
            />
          </Labelled>
        )}
      </DialogForm>
    </Dialog>
  );
}
