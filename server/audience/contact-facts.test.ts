import { afterAll, beforeAll, expect, test } from "vitest";
import { setReaders, startCampaign } from "../campaigns/campaigns";
import type { Septima } from "../septima";
import { addList, everybody, openWorld } from "../test-world";
import { changeContact, contactFacts } from "./contact-facts";
import { addContacts } from "./contacts";
import { countRule } from "./counting";
import { contactsAsCsv } from "./exporting";
import { setFields } from "./fields";

let septima: Septima;
let close: () => Promise<void>;
let id: number;
beforeAll(async () => {
  const world = await openWorld();
  ({ septima, close } = world);
  await setFields(septima, [
    { key: "zone", label: "Zone", kind: "choice", options: [{ value: "cool", label: "Cool" }] },
    { key: "orders", label: "Orders", kind: "number" },
  ]);
  await addList(septima, "letter", "Letter");
  await addList(septima, "club", "Club, the");
  await addContacts(septima, [
    { email: "ines@r.example", fields: { first_name: "Ines", odd: ["kept"] }, lists: ["letter"] },
    { email: "tobias@r.example", fields: {}, lists: [] },
  ]);
  id = (await everybody(septima)).find(({ email }) => email.startsWith("ines"))!.id;
});
afterAll(() => close());

test("a change is by the kinds of fields, all or nothing, and is counted at once", async () => {
  const cool = { kind: "field", field: "zone", op: "is", value: "cool" } as const;
  expect((await countRule(septima, cool)).count).toBe(0);
  const fields = { zone: "cool", orders: 5, first_name: null };
  await changeContact(septima, id, { email: "INES@r.example", fields, lists: ["club"] });
  const { contact } = await contactFacts(septima, id);
  expect(contact).toMatchObject({
    id,
    email: "INES@r.example",
    fields: { zone: "cool", orders: 5, odd: ["kept"] },
    lists: ["club"],
  });
  expect((await countRule(septima, cool)).count).toBe(1);
  const refused = (change: object) =>
    expect(changeContact(septima, id, { email: "ines@r.example", fields: {}, lists: [], ...change })).rejects;
  await refused({ fields: { zone: "hot", orders: 6 } }).toThrow("“Zone” cannot be “hot”");
  await refused({ fields: { pets: 1 } }).toThrow("no field “pets”");
  await refused({ email: "Tobias@R.example" }).toThrow("belongs to another contact");
  await refused({ email: "ines" }).toThrow("not an address");
  expect((await contactFacts(septima, id)).contact).toEqual(contact);
  await expect(changeContact(septima, 999, { email: "a@b.example", fields: {}, lists: [] })).rejects.toThrow(
    "does not exist any more",
  );
});

test("a contact would get the drafts whose readers they are among, as long as they may be written to", async () => {
  const draft = await startCampaign(septima, "For the club", "letter");
  await setReaders(septima, draft, { include: [{ kind: "list", id: "club" }], exclude: [] });
  const broken = await startCampaign(septima, "For a segment that is gone", "letter");
  await setReaders(septima, broken, { include: [{ kind: "segment", id: "gone" }], exclude: [] });
  expect((await contactFacts(septima, id)).drafts).toEqual([{ id: draft, name: "For the club" }]);
  await septima.db.query("update contacts set status = 'bounced' where id = $1", [id]);
  expect(await contactFacts(septima, id)).toMatchObject({ status: "bounced", drafts: [] });
});

test("the audience as CSV has every field, the lists’ names and the state of each", async () => {
  let text = "";
  for await (const piece of await contactsAsCsv(septima, {
    all: { group: { kind: "everyone", id: "" }, words: "", filter: null, sort: { by: "id", down: false } },
    but: [],
  }))
    text += piece;
  const [head, ...records] = text.replace("\ufeff", "").trimEnd().split("\r\n");
  expect(head).toMatch(/^Email address,First name,.*,Zone,Orders,Lists,Status$/);
  expect(records).toHaveLength(2);
  expect(records[0]).toMatch(/^INES@r\.example,,.*,cool,5,"Club, the",bounced$/);
});
