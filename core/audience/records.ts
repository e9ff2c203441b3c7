/**
 * Small tables of the workspace's own, such as its branches. A field of the kind `record` holds the id of a record; the
 * record's facts are reader data like the contact's own, under the key of the field, a dot and the key of the fact.
 */
import { z } from "zod";
import { type FieldDef, FieldDefSchema, type FieldValue } from "./contact";

/** What a record can say of itself. Pictures are addresses. */
export const FACT_KINDS = ["text", "number", "money", "date", "boolean", "picture"] as const;

const FactDefSchema = FieldDefSchema.pick({ key: true, label: true, currency: true }).extend({
  kind: z.enum(FACT_KINDS),
});
export type FactDef = z.infer<typeof FactDefSchema>;

export const RecordTableSchema = z.object({
  id: z.string(),
  name: z.string().trim().min(1).max(100),
  /** Every record has a name besides. */
  facts: z.array(FactDefSchema).max(60),
});
export type RecordTable = z.infer<typeof RecordTableSchema>;

export interface TableRecord {
  id: string;
  name: string;
  facts: Readonly<Record<string, FieldValue>>;
}

/** By the field that points to them: each record's facts under the keys they have as reader data. */
export type RecordFacts = ReadonlyMap<string, ReadonlyMap<string, Readonly<Record<string, FieldValue>>>>;

/** The fact's key as reader data. */
const factKey = (field: string, fact: string) => `${field}.${fact}`;

/** The field that points, and the fact, of a key of reader data; null when it is no fact of a record. */
export function factIn(key: string): { field: string; fact: string } | null {
  const dot = key.indexOf(".");
  return dot < 0 ? null : { field: key.slice(0, dot), fact: key.slice(dot + 1) };
}

/** The facts of a table's records as reader data behind a field. */
export function factFields(field: FieldDef, table: RecordTable): FieldDef[] {
  const all: FactDef[] = [{ key: "name", label: "name", kind: "text" }, ...table.facts];
  return all.map(({ key, label, kind, currency }) => ({
    key: factKey(field.key, key),
    label: `${field.label}: ${label.toLowerCase()}`,
    kind: kind === "picture" ? "text" : kind,
    ...(currency && { currency }),
  }));
}

/** The facts of records behind a field, by their keys as reader data. */
export function factsBehind(field: string, records: readonly TableRecord[]) {
  return new Map(
    records.map(({ id, name, facts }) => [
      id,
      Object.fromEntries(
        Object.entries({ ...facts, name }).map(([key, value]) => [factKey(field, key), value]),
      ),
    ]),
  );
}

/** A contact's fields together with the facts of the records they point to. */
export function withFacts(
  fields: Readonly<Record<string, unknown>>,
  records: RecordFacts,
): Readonly<Record<string, unknown>> {
  let all: Record<string, unknown> | null = null;
  for (const [field, known] of records) {
    const id = fields[field];
    const facts = typeof id === "string" ? known.get(id) : undefined;
    if (facts) all = Object.assign(all ?? { ...fields }, facts);
  }
  return all ?? fields;
}
