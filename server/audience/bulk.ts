/** What can be done to many marked contacts at once. */
import { z } from "zod";
import { type ContactStatus, givenValue, type Wanted } from "~/core/audience";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { type Changeable, changeMany } from "./changing";
import { fieldsOf } from "./fields";
import { lists } from "./groups";
import { type Pick, picked } from "./table";

export const DoingSchema = z.discriminatedUnion("do", [
  z.object({ do: z.enum(["join", "leave"]), list: z.string() }),
  z.object({ do: z.literal("set"), field: z.string(), value: z.unknown() }),
  z.object({ do: z.enum(["unsubscribe", "remove", "restore"]) }),
]);
export type Doing = z.infer<typeof DoingSchema>;

/**
 * Does something to marked contacts; it goes on in the background, and can be taken back.
 * @throws Refusal when the list or field is gone, or the value does not fit; RuleError when a segment is gone
 */
export async function bulk(
  septima: Septima,
  pick: Pick,
  doing: Doing,
): Promise<{ id: string; finished: Promise<number> }> {
  const ids = await picked(septima, pick);
  const [name, wanted] = await meant(septima, doing, ids);
  return changeMany(septima, name, ids, wanted);
}

/** What the removed among contacts were before; unknown when it was too long ago. */
async function statesBefore(septima: Septima, ids: readonly number[]): Promise<Map<number, ContactStatus>> {
  const rows = await septima.db.query<{ contact_id: number; status: ContactStatus | null }>(
    `select distinct on (r.contact_id) r.contact_id, r.before ->> 'status' as status
     from change_rows r join changes c on c.id = r.change_id
     where r.contact_id = any ($1::int[]) and r.after ->> 'status' = 'removed' order by r.contact_id, c.started_at desc`,
    [ids],
  );
  return new Map(rows.flatMap(({ contact_id, status }) => (status ? [[contact_id, status]] : [])));
}

async function meant(
  septima: Septima,
  doing: Doing,
  ids: readonly number[],
): Promise<[string, Wanted | ((contact: Changeable) => Wanted)]> {
  switch (doing.do) {
    case "join":
    case "leave": {
      const list = (await lists(septima)).find(({ id }) => id === doing.list);
      if (!list) throw new Refusal("This list does not exist any more.", 404);
      return doing.do === "join"
        ? [`Added to ${list.name}`, { join: [list.id] }]
        : [`Taken off ${list.name}`, { leave: [list.id] }];
    }
    case "set": {
      const field = (await fieldsOf(septima)).find(({ key }) => key === doing.field && key !== "email");
      if (!field) throw new Refusal("This field does not exist any more.", 404);
      const given = givenValue(field, doing.value);
      if ("problem" in given) throw new Refusal(`“${field.label}” ${given.problem}.`);
      return [`${field.label} set`, { fields: { [field.key]: given.value } }];
    }
    case "unsubscribe":
      // Who cannot be written to anyway stays what they are.
      return ["Unsubscribed", ({ status }) => (status === "subscribed" ? { status: "unsubscribed" } : {})];
    case "remove":
      return ["Removed", { status: "removed" }];
    case "restore": {
      const before = await statesBefore(septima, ids);
      return [
        "Brought back",
        // Of whom it is not known that they may be written to, they may not.
        ({ id, status }) => (status === "removed" ? { status: before.get(id) ?? "unsubscribed" } : {}),
      ];
    }
  }
}
