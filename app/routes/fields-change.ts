import { z } from "zod";
import { FieldDefSchema, RecordTableSchema } from "~/core/audience";
import { ownFields, removeField, restoreField, saveField } from "~/server/audience/fields";
import { removeRecord, removeTable, saveRecords, saveTable } from "~/server/audience/records";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/fields-change";

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.enum(["field", "restore-field"]), field: FieldDefSchema }),
  z.object({ intent: z.literal("remove-field"), key: z.string() }),
  z.object({ intent: z.literal("table"), table: RecordTableSchema }),
  z.object({ intent: z.literal("remove-table"), table: z.string() }),
  z.object({
    intent: z.literal("record"),
    table: z.string(),
    record: z.object({
      id: z.string(),
      name: z.string().max(500),
      facts: z.record(z.string(), z.unknown()),
    }),
  }),
  z.object({ intent: z.literal("remove-record"), table: z.string(), id: z.string() }),
]);

/** Changes fields, tables and records. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "field":
        await saveField(septima, body.field);
        break;
      case "restore-field":
        await restoreField(septima, body.field);
        break;
      case "remove-field":
        await removeField(septima, body.key);
        break;
      case "table":
        await saveTable(septima, { ...body.table, id: body.table.id || septima.newId() });
        break;
      case "remove-table":
        await removeTable(septima, body.table, await ownFields(septima));
        break;
      case "record":
        await saveRecords(septima, body.table, [{ ...body.record, id: body.record.id || septima.newId() }]);
        break;
      case "remove-record":
        await removeRecord(septima, body.table, body.id);
        break;
    }
    return true;
  });
}
