import { useState } from "react";
import { FACT_KINDS, type FactKind, SOURCE_KINDS } from "~/core/items";
import { type ColumnTarget, ITEM_PARTS, type ItemPart, type Mapping } from "~/core/sources";
import { keyFor } from "~/core/tables";
import type { Source } from "~/server/sources/sources";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { CellReadingChoice } from "../ui/cell-reading";
import { Choose, type Option } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Input, Labelled, Problem } from "../ui/form";

const KIND_NAMES: Record<FactKind, string> = {
  text: "text",
  number: "number",
  money: "money",
  date: "date",
  boolean: "yes or no",
  set: "several of several",
};
const FACT = " fact";
const NOTHING = " nothing";
const PARTS = Object.entries(ITEM_PARTS) as [ItemPart, string][];
/** Parts that hold numbers, and those that hold days. */
const SUMS: readonly ItemPart[] = ["price", "sale"];
const DAYS: readonly ItemPart[] = ["date", "until"];

const keyOf = (target: ColumnTarget) =>
  target.to === "part" ? target.part : target.to === "fact" ? FACT : NOTHING;

/** What the columns of a source mean, with what stands in them, corrected by hand. */
export function MappingDialog({
  source,
  mapping,
  onClose,
}: {
  source: Source;
  mapping: Mapping;
  onClose(changed: boolean): void;
}) {
  // Columns it has now and did not have when they were told what they mean stand last, and mean nothing.
  const [said, setSaid] = useState<Mapping>(() => ({
    ...mapping,
    columns: [
      ...mapping.columns,
      ...source.columns
        .filter(({ name }) => !mapping.columns.some((column) => column.name === name))
        .map(({ name, decimal, dates }) => ({ name, decimal, dates, target: { to: "nothing" as const } })),
    ],
  }));
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const set = (name: string, part: Partial<Mapping["columns"][number]>) =>
    setSaid({
      ...said,
      columns: said.columns.map((column) => (column.name === name ? { ...column, ...part } : column)),
    });
  const factFor = (name: string, label: string, kind: FactKind): ColumnTarget => {
    const taken = new Set(
      said.columns.flatMap((column) =>
        column.name !== name && column.target.to === "fact" ? [column.target.key] : [],
      ),
    );
    return { to: "fact", key: keyFor(label, taken), label, kind };
  };
  const options: Option[] = [
    { value: NOTHING, label: "Leave out" },
    ...PARTS.map(([value, label]) => ({ value, label })),
    { value: FACT, label: "A further fact" },
  ];
  const keep = async () => {
    setBusy(true);
    setProblem(null);
    const { problem } = await tell("/sources/change", { intent: "map", id: source.id, mapping: said });
    setBusy(false);
    if (problem) setProblem(problem);
    else onClose(true);
  };
  return (
    <Dialog
      open
      size="large"
      title="What its columns mean"
      about={`Of each entry of “${source.name}” one ${SOURCE_KINDS[source.kind].item} is made.`}
      onClose={() => onClose(false)}
    >
      <div className="space-y-4">
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys from here */}
        <section className="max-h-[56vh] overflow-auto rounded-md border" aria-label="Columns" tabIndex={0}>
          <table className="w-full min-w-[620px]">
            <thead className="sticky top-0 z-10 bg-paper text-left text-xs text-ink-soft">
              <tr>
                <th className="px-4 py-2.5 font-medium">Column</th>
                <th className="px-3 py-2.5 font-medium">Like</th>
                <th className="px-3 py-2.5 font-medium">Becomes</th>
              </tr>
            </thead>
            <tbody className="divide-y border-t">
              {said.columns.map(({ name, target, decimal, dates }) => {
                const facts = source.columns.find((column) => column.name === name);
                const kind = target.to === "fact" ? target.kind : null;
                const part = target.to === "part" ? target.part : null;
                return (
                  <tr key={name} className={target.to === "nothing" ? "text-ink-soft" : ""}>
                    <td className="max-w-40 truncate px-4 py-2 font-medium" title={name}>
                      {name}
                    </td>
                    <td
                      className="max-w-52 truncate px-3 py-2 text-ink-soft"
                      title={facts?.samples.join("\n")}
                    >
                      {facts ? (facts.samples[0] ?? "—") : "not there any more"}
                    </td>
                    <td className="px-3 py-2">
                      <div className="flex flex-wrap items-center gap-1.5">
                        <Choose
                          label={`What ${name} becomes`}
                          className="w-44!"
                          value={keyOf(target)}
                          options={options}
                          onChange={(value) =>
                            set(name, {
                              target:
                                value === NOTHING
                                  ? { to: "nothing" }
                                  : value === FACT
                                    ? factFor(name, name, "text")
                                    : { to: "part", part: value as ItemPart },
                            })
                          }
                        />
                        {target.to === "fact" && (
                          <>
                            <Input
                              aria-label={`What the fact in ${name} is called`}
                              className="w-36!"
                              maxLength={100}
                              value={target.label}
                              onChange={(event) =>
                                set(name, { target: { ...target, label: event.target.value } })
                              }
                            />
                            <Choose
                              label={`Kind of the fact in ${name}`}
                              className="w-36!"
                              value={target.kind}
                              options={FACT_KINDS.map((value) => ({ value, label: KIND_NAMES[value] }))}
                              onChange={(value) => set(name, { target: { ...target, kind: value } })}
                            />
                          </>
                        )}
                        <CellReadingChoice
                          column={name}
                          days={kind === "date" || (part !== null && DAYS.includes(part))}
                          numbers={
                            kind === "number" || kind === "money" || (part !== null && SUMS.includes(part))
                          }
                          value={{ dates, decimal }}
                          onChange={(part) => set(name, part)}
                        />
                      </div>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </section>
        <Labelled
          label="Currency of prices that say none"
          hint="Its three letters, such as EUR; empty for none."
        >
          <Input
            className="w-24! uppercase"
            maxLength={3}
            value={said.currency}
            onChange={(event) =>
              setSaid({ ...said, currency: event.target.value.toUpperCase().replace(/[^A-Z]/g, "") })
            }
          />
        </Labelled>
        {problem && <Problem>{problem}</Problem>}
        <div className="flex justify-end gap-2">
          <Button onClick={() => onClose(false)}>Cancel</Button>
          <Button kind="primary" busy={busy} onClick={() => void keep()}>
            {busy ? "Reading it anew…" : "Keep, and read it anew"}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
