import type { FieldDef, FieldKind } from "~/core/audience";
import { type Plan, statusTarget, type Target } from "~/core/importing";
import { type ColumnFacts, keyFor } from "~/core/tables";
import { CellReadingChoice } from "../ui/cell-reading";
import { Choose, type Option } from "../ui/choose";
import { Input } from "../ui/form";

type Column = Plan["columns"][number];

export const KIND_NAMES: Record<FieldKind, string> = {
  text: "text",
  choice: "one of several",
  set: "several of several",
  number: "number",
  money: "money",
  date: "date",
  boolean: "yes or no",
  record: "record",
};
/** What a new field may be; records need a table first. */
const NEW_KINDS = (Object.keys(KIND_NAMES) as FieldKind[]).filter((kind) => kind !== "record");

const NEW = " new";
const keyOfTarget = (target: Target) =>
  target.to === "field" ? target.field : target.to === "new" ? NEW : ` ${target.to}`;

/** The columns of a file, what stands in them, and what they become. */
export function ImportColumns({
  columns,
  lines,
  plan,
  fields,
  onChange,
}: {
  columns: readonly ColumnFacts[];
  lines: number;
  plan: readonly Column[];
  fields: readonly FieldDef[];
  onChange(columns: Column[]): void;
}) {
  const set = (at: number, part: Partial<Column>) =>
    onChange(plan.map((column, index) => (index === at ? { ...column, ...part } : column)));
  const taken = new Set(plan.flatMap(({ target }) => (target.to === "field" ? [target.field] : [])));
  /** A new field of a name; its key is made of it, and is that of no other. */
  const madeFor = (at: number, label: string, kind: FieldKind): Target => {
    const keys = new Set([
      ...fields.map(({ key }) => key),
      ...plan.flatMap(({ target }, index) => (index !== at && target.to === "new" ? [target.field.key] : [])),
    ]);
    return { to: "new", field: { key: keyFor(label, keys), label, kind } };
  };
  const targetFor = (at: number, value: string): Target => {
    if (value === NEW) {
      const { name, kind } = columns[at];
      return madeFor(at, name, kind === "address" ? "text" : kind);
    }
    if (value === " status") return statusTarget(columns[at].name);
    if (value === " lists" || value === " nothing") return { to: value.trim() as "lists" | "nothing" };
    return { to: "field", field: value };
  };
  const optionsFor = (at: number): Option[] => {
    const own = plan[at].target;
    const free = (key: string) => !taken.has(key) || (own.to === "field" && own.field === key);
    return [
      { value: " nothing", label: "Leave out" },
      { value: NEW, label: "A new field" },
      ...fields
        .filter(({ key }) => free(key))
        .map(({ key, label, kind }) => ({ value: key, label, aside: KIND_NAMES[kind] })),
      { value: " lists", label: "Lists they are on", words: "groups tags" },
      { value: " status", label: "Whether they may be written to", words: "status unsubscribed state" },
    ];
  };
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys from here
    <section className="max-h-[60vh] overflow-auto" aria-label="Columns" tabIndex={0}>
      <table className="w-full min-w-[620px]">
        <thead className="sticky top-0 z-10 bg-paper text-left text-xs text-ink-soft">
          <tr>
            <th className="px-4 py-2.5 font-medium">Column</th>
            <th className="px-3 py-2.5 font-medium">Like</th>
            <th className="px-3 py-2.5 font-medium">Becomes</th>
            <th className="px-4 py-2.5 text-right font-medium">Filled</th>
          </tr>
        </thead>
        <tbody className="divide-y border-t">
          {columns.map((column, at) => {
            const { target, dates, decimal } = plan[at];
            const kind = kindOf(target, fields);
            const out = target.to === "nothing";
            return (
              <tr key={column.name} className={out ? "text-ink-soft" : ""}>
                <td className="max-w-40 truncate px-4 py-2 font-medium" title={column.name}>
                  {column.name}
                </td>
                <td className="max-w-44 truncate px-3 py-2 text-ink-soft" title={column.samples.join("\n")}>
                  {column.samples[0] ?? "—"}
                </td>
                <td className="px-3 py-2">
                  <div className="flex flex-wrap items-center gap-1.5">
                    <Choose
                      label={`What ${column.name} becomes`}
                      className="w-44!"
                      value={keyOfTarget(target)}
                      options={optionsFor(at)}
                      onChange={(value) => set(at, { target: targetFor(at, value) })}
                    />
                    {target.to === "new" && (
                      <>
                        <Input
                          aria-label={`Name of the new field for ${column.name}`}
                          className="w-36!"
                          value={target.field.label}
                          onChange={(event) =>
                            set(at, { target: madeFor(at, event.target.value, target.field.kind) })
                          }
                        />
                        <Choose
                          label={`Kind of the new field for ${column.name}`}
                          className="w-36!"
                          value={target.field.kind}
                          options={NEW_KINDS.map((value) => ({ value, label: KIND_NAMES[value] }))}
                          onChange={(value) =>
                            set(at, { target: { ...target, field: { ...target.field, kind: value } } })
                          }
                        />
                      </>
                    )}
                    <CellReadingChoice
                      column={column.name}
                      days={kind === "date"}
                      numbers={kind === "number" || kind === "money"}
                      value={{ dates, decimal }}
                      onChange={(part) => set(at, part)}
                    />
                  </div>
                </td>
                <td className="px-4 py-2 text-right whitespace-nowrap">{share(column.filled, lines)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function kindOf(target: Target, fields: readonly FieldDef[]): FieldKind | null {
  if (target.to === "new") return target.field.kind;
  return target.to === "field" ? (fields.find(({ key }) => key === target.field)?.kind ?? null) : null;
}

/** A share that never says all, or nothing, when one line says otherwise. */
function share(part: number, whole: number): string {
  const percent = whole === 0 ? 0 : (100 * part) / whole;
  if (part === whole || part === 0) return `${percent} %`;
  return `${Math.min(99.9, Math.max(0.1, percent)).toFixed(percent > 99 || percent < 1 ? 1 : 0)} %`;
}
