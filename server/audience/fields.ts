/** What is known of contacts: the usual fields, the workspace's own, and the facts of records that they point to. */

import { z } from "zod";
import {
  BASE_FIELDS,
  type FieldDef,
  FieldDefSchema,
  factFields,
  factsBehind,
  type RecordFacts,
} from "~/core/audience";
import { type Use, usesOf } from "../mentions";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";
import { cachedSetting, writeSetting } from "../workspace/settings";
import { audienceChanged } from "./answers";

import { recordTables } from "./records";

/** The workspace's own fields, as they are kept. */
export function ownFields(septima: Septima): Promise<FieldDef[]> {
  return cachedSetting(septima, "fields", z.array(FieldDefSchema), []);
}

/** All fields a contact may have: the usual ones and the workspace's own. Those that point to records offer them. */
export async function fieldsOf(septima: Septima): Promise<FieldDef[]> {
  const own = await ownFields(septima);
  const tables = own.some(({ kind }) => kind === "record") ? await recordTables(septima) : [];
  return [
    ...BASE_FIELDS,
    ...own.map((field) => {
      if (field.kind !== "record") return field;
      const records = tables.find(({ id }) => id === field.table)?.records ?? [];
      return { ...field, options: records.map(({ id, name }) => ({ value: id, label: name })) };
    }),
  ];
}

/** All that can be asked and written of a reader: the fields, and the facts of the records they point to. */
export async function readerFields(septima: Septima): Promise<FieldDef[]> {
  const fields = await fieldsOf(septima);
  const tables = await recordTables(septima);
  return fields.flatMap((field) => {
    const table = field.kind === "record" ? tables.find(({ id }) => id === field.table) : undefined;
    return table ? [field, ...factFields(field, table)] : [field];
  });
}

/** What stands behind the fields that point to records. */
export function recordFacts(septima: Septima): Promise<RecordFacts> {
  return cached(septima, "record facts", async () => {
    const tables = await recordTables(septima);
    return new Map(
      (await ownFields(septima)).flatMap(({ key, kind, table }) => {
        const records = kind === "record" ? tables.find(({ id }) => id === table)?.records : undefined;
        return records ? [[key, factsBehind(key, records)] as const] : [];
      }),
    );
  });
}

/**
 * Keeps the workspace's own fields.
 * @throws Refusal when two have the same key or name, or one has the key of a usual field
 */
export async function setFields(septima: Septima, fields: readonly FieldDef[]): Promise<void> {
  const kept = z.array(FieldDefSchema).parse(fields);
  const keys = new Set(BASE_FIELDS.map(({ key }) => key));
  const labels = new Set(BASE_FIELDS.map(({ label }) => label.toLowerCase()));
  for (const { key, label } of kept) {
    if (keys.has(key) || labels.has(label.toLowerCase()))
      throw new Refusal(`There is a field “${label}” already.`, 409);
    keys.add(key);
    labels.add(label.toLowerCase());
  }
  // What the records are comes from their table.
  const stored = kept.map(({ options, ...field }) => ({
    ...field,
    ...(options && field.kind !== "record" && { options }),
  }));
  await writeSetting(septima, "fields", stored);
  audienceChanged(septima);
}

/** An own field with how many contacts have something in it, and what asks for it. */
export interface FieldUse {
  field: FieldDef;
  filled: number;
  uses: Use[];
}

/** The workspace's own fields, how full they are and where they are used. */
export async function fieldUses(septima: Septima): Promise<FieldUse[]> {
  const own = (await fieldsOf(septima)).slice(BASE_FIELDS.length);
  if (own.length === 0) return [];
  const keys = own.map(({ key }) => key);
  const [counts] = await septima.db.query<Record<string, number>>(
    `select ${keys.map((_, at) => `count(*) filter (where fields ? $${at + 1})::int as f${at}`).join(", ")}
     from contacts where status <> 'removed'`,
    keys,
  );
  // A fact of a record that a field points to is named behind the field.
  const ownKey = (key: string) => key.split(".")[0];
  const named = await septima.db.query<{ key: string }>(
    "select distinct key from mentions where kind = 'field' and split_part(key, '.', 1) = any ($1::text[])",
    [keys],
  );
  const uses = await usesOf(
    septima.db,
    "field",
    named.map(({ key }) => key),
  );
  return own.map((field, at) => ({
    field,
    filled: counts[`f${at}`],
    uses: uses.filter((use) => use.keys.some((key) => ownKey(key) === field.key)),
  }));
}

/**
 * Keeps one own field, new or changed. What kind it is stays: contacts have values of it.
 * @throws Refusal when its name is taken, its kind was changed, or it lacks its table, currency or choices
 */
export async function saveField(septima: Septima, field: FieldDef): Promise<void> {
  const isNew = await keepField(septima, field);
  // What another field of this key held once is not this one's.
  if (isNew) await septima.db.query("delete from removed_values where field = $1", [field.key]);
}

/** Checks and keeps a field. Says whether it was not there. */
async function keepField(septima: Septima, field: FieldDef): Promise<boolean> {
  const own = await ownFields(septima);
  const at = own.findIndex(({ key }) => key === field.key);
  if (at >= 0 && own[at].kind !== field.kind)
    throw new Refusal(`“${own[at].label}” holds values of another kind. Make a new field instead.`, 409);
  if (field.kind === "record" && !(await recordTables(septima)).some(({ id }) => id === field.table))
    throw new Refusal("Choose the table whose records it points to.");
  if (field.kind === "money" && !field.currency) throw new Refusal("Choose the currency.");
  const values = field.options?.map(({ value }) => value) ?? [];
  if (new Set(values).size < values.length) throw new Refusal("A choice is there twice.");
  await setFields(septima, at >= 0 ? own.with(at, field) : [...own, field]);
  return at < 0;
}

/**
 * Removes an own field with what contacts have in it; `restoreField` brings both back.
 * @throws Refusal (404) when there is none
 */
export async function removeField(septima: Septima, key: string): Promise<void> {
  const own = await ownFields(septima);
  if (!own.some((field) => field.key === key)) throw new Refusal("This field does not exist any more.", 404);
  await setFields(
    septima,
    own.filter((field) => field.key !== key),
  );
  await septima.db.query(
    `with gone as (update contacts c set fields = c.fields - $1::text from contacts o
       where c.id = o.id and c.fields ? $1 returning c.id, o.fields -> $1 as value)
     insert into removed_values (field, contact_id, value) select $1, id, value from gone
     on conflict (field, contact_id) do update set value = excluded.value`,
    [key],
  );
  audienceChanged(septima);
}

/**
 * Brings a removed field back, with what contacts had in it.
 * @throws Refusal as `saveField` does
 */
export async function restoreField(septima: Septima, field: FieldDef): Promise<void> {
  await keepField(septima, field);
  await septima.db.query(
    `with back as (delete from removed_values where field = $1 returning contact_id, value)
     update contacts c set fields = c.fields || jsonb_build_object($1::text, back.value)
     from back where c.id = back.contact_id and not c.fields ? $1`,
    [field.key],
  );
  audienceChanged(septima);
}
