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
import { cached, Refusal, type Septima } from "../septima";
import { cachedSetting, writeSetting } from "../workspace/settings";
import { audienceChanged } from "./contacts";
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
