import { z } from "zod";
import { FieldDefSchema, RecordTableSchema } from "~/core/audience";
import { ownFields, removeField, restoreField, saveField } from "~/server/audience/fields";
import { removeRecord, removeTable, saveRecords, saveTable } from "~/server/audience/records";
import { actions, way } from "../deeds";
import type { Route } from "./+types/fields-change";

type Args = Route.ActionArgs;
const Record = z.object({
  id: z.string(),
  name: z.string().max(500),
  facts: z.record(z.string(), z.unknown()),
});

/** Changes fields, tables and records. */
export const action = actions({
  field: way(z.object({ field: FieldDefSchema }), ({ field }, { context: { septima } }: Args) =>
    saveField(septima, field),
  ),
  "restore-field": way(z.object({ field: FieldDefSchema }), ({ field }, { context: { septima } }: Args) =>
    restoreField(septima, field),
  ),
  "remove-field": way(z.object({ key: z.string() }), ({ key }, { context: { septima } }: Args) =>
    removeField(septima, key),
  ),
  table: way(z.object({ table: RecordTableSchema }), ({ table }, { context: { septima } }: Args) =>
    saveTable(septima, { ...table, id: table.id || septima.newId() }),
  ),
  "remove-table": way(z.object({ table: z.string() }), async ({ table }, { context: { septima } }: Args) =>
    removeTable(septima, table, await ownFields(septima)),
  ),
  record: way(
    z.object({ table: z.string(), record: Record }),
    ({ table, record }, { context: { septima } }: Args) =>
      saveRecords(septima, table, [{ ...record, id: record.id || septima.newId() }]),
  ),
  "remove-record": way(
    z.object({ table: z.string(), id: z.string() }),
    ({ table, id }, { context: { septima } }: Args) => removeRecord(septima, table, id),
  ),
});
