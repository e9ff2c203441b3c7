/** The workspace's own small tables, such as its branches, whose records contacts point to. */

import { z } from "zod";
import {
  type FieldDef,
  FieldKeySchema,
  givenValue,
  type RecordTable,
  RecordTableSchema,
  type TableRecord,
} from "~/core/audience";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";
import { audienceChanged } from "./answers";

export type TableWithRecords = RecordTable & { records: TableRecord[] };

/** So many records a table may have: they are in memory where rules are asked. */
const MOST_RECORDS = 5000;

const FactsSchema = z.record(
  z.string(),
  z.union([z.string(), z.number(), z.boolean(), z.array(z.string()), z.null()]),
);

/** All tables with their records, in order. */
export function recordTables(septima: Septima): Promise<TableWithRecords[]> {
  return cached(septima, "record tables", async () => {
    const tables = await septima.db.query<{ id: string; name: string; facts: unknown }>(
      "select id, name, facts from record_tables order by created_at, id",
    );
    const records = await septima.db.query<{ table_id: string; id: string; name: string; facts: unknown }>(
      "select table_id, id, name, facts from records order by table_id, position, name",
    );
    return tables.map((table) => ({
      ...RecordTableSchema.parse(table),
      records: records
        .filter(({ table_id }) => table_id === table.id)
        .map(({ id, name, facts }) => ({ id, name, facts: FactsSchema.parse(facts) })),
    }));
  });
}

/** Makes a table, or changes its name and facts. Facts that are gone from it are kept with the records, unseen. */
export async function saveTable(septima: Septima, table: RecordTable): Promise<void> {
  const { id, name, facts } = RecordTableSchema.parse(table);
  const keys = new Set(["name"]);
  for (const { key, label } of facts) {
    if (keys.has(key)) throw new Refusal(`There is a fact “${label}” already.`, 409);
    keys.add(FieldKeySchema.parse(key));
  }
  await septima.db.query(
    `insert into record_tables (id, name, facts, created_at) values ($1, $2, $3::jsonb, $4)
     on conflict (id) do update set name = excluded.name, facts = excluded.facts`,
    [id, name, JSON.stringify(facts), new Date(septima.now())],
  );
  audienceChanged(septima);
}

/**
 * Makes records or changes them; those that are not named stay.
 * @throws Refusal that names the record and the fact; 404 when the table is gone
 */
export async function saveRecords(
  septima: Septima,
  tableId: string,
  records: readonly { id: string; name: string; facts: Readonly<Record<string, unknown>> }[],
): Promise<void> {
  const table = (await recordTables(septima)).find(({ id }) => id === tableId);
  if (!table) throw new Refusal("This table does not exist any more.", 404);
  const added = records.filter(({ id }) => !table.records.some((known) => known.id === id)).length;
  if (table.records.length + added > MOST_RECORDS)
    throw new Refusal(`“${table.name}” may have ${MOST_RECORDS.toLocaleString("en")} records at most.`);
  const rows = records.map(({ id, name, facts }, index) => {
    if (name.trim() === "") throw new Refusal("Give the record a name.");
    const read: Record<string, unknown> = {};
    for (const fact of table.facts) {
      const def: FieldDef = { ...fact, kind: fact.kind === "picture" ? "text" : fact.kind };
      const given = givenValue(def, facts[fact.key]);
      if ("problem" in given) throw new Refusal(`“${fact.label}” of ${name.trim()} ${given.problem}.`);
      if (given.value !== null) read[fact.key] = given.value;
    }
    return { id, name: name.trim(), facts: read, position: table.records.length + index };
  });
  await septima.db.query(
    `insert into records (table_id, id, position, name, facts)
     select $1, it ->> 'id', (it ->> 'position')::int, it ->> 'name', it -> 'facts' from jsonb_array_elements($2::jsonb) it
     on conflict (table_id, id) do update set name = excluded.name, facts = excluded.facts`,
    [tableId, JSON.stringify(rows)],
  );
  audienceChanged(septima);
}

/** Removes a record: whoever points to it has nothing there any more. Returns how many did. */
export async function removeRecord(septima: Septima, tableId: string, id: string): Promise<void> {
  const gone = await septima.db.query("delete from records where table_id = $1 and id = $2 returning id", [
    tableId,
    id,
  ]);
  if (gone.length === 0) throw new Refusal("This record does not exist any more.", 404);
  audienceChanged(septima);
}

/** Removes a table with its records. @throws Refusal (409) while a field points to it */
export async function removeTable(septima: Septima, id: string, fields: readonly FieldDef[]): Promise<void> {
  const pointing = fields.find((field) => field.table === id);
  if (pointing)
    throw new Refusal(`The field “${pointing.label}” points to this table. Remove the field first.`, 409);
  await septima.db.query("delete from record_tables where id = $1", [id]);
  audienceChanged(septima);
}
