import fc from "fast-check";
import { expect, test } from "vitest";
import { type ContactState, change, type Done, together, undone, type Wanted } from "./changes";
import type { FieldValue } from "./contact";

const lists = fc.subarray(["a", "b", "c"]);
const value: fc.Arbitrary<FieldValue> = fc.oneof<fc.Arbitrary<FieldValue>[]>(
  fc.constantFrom("x", "y", "z"),
  fc.integer({ min: 0, max: 2 }),
  fc.constant(["p", "q"]),
  fc.boolean(),
);
const fields = fc.dictionary(fc.constantFrom("one", "two", "three"), value);
const status = fc.constantFrom("subscribed" as const, "unsubscribed" as const, "removed" as const);
const state: fc.Arbitrary<ContactState> = fc.record({ status, fields, lists });
const wanted: fc.Arbitrary<Wanted> = fc.record(
  {
    status,
    fields: fc.dictionary(fc.constantFrom("one", "two", "three"), fc.option(value, { nil: null })),
    join: lists,
    leave: lists,
  },
  { requiredKeys: [] },
);
const plain = ({ lists: on, ...rest }: ContactState) => ({ ...rest, lists: [...on].sort() });
/** What nobody means: to join and to leave the same list at once. */
const sane = (it: Wanted): Wanted => ({ ...it, leave: it.leave?.filter((list) => !it.join?.includes(list)) });

test("a change taken back leaves no trace", () => {
  let changed = 0;
  fc.assert(
    fc.property(state, wanted, (contact, want) => {
      const made = change(contact, sane(want));
      if (made) changed++;
      if (made) expect(plain(undone(made.next, made.done))).toEqual(plain(contact));
      else expect(change(contact, sane(want))).toBeNull();
    }),
  );
  expect(changed).toBeGreaterThan(20);
});

test("several changes of one contact are taken back as one", () => {
  let changed = 0;
  fc.assert(
    fc.property(state, fc.array(wanted, { maxLength: 4 }), (contact, all) => {
      let now = contact;
      let done: Done | null = null;
      for (const want of all.map(sane)) {
        const made = change(now, want);
        if (!made) continue;
        now = made.next;
        done = done ? together(done, made.done) : made.done;
      }
      if (done) changed++;
      if (done) expect(plain(undone(now, done))).toEqual(plain(contact));
    }),
  );
  expect(changed).toBeGreaterThan(20);
});

test("what somebody changed again since stays as they left it", () => {
  const contact: ContactState = { status: "subscribed", fields: { one: "x", two: "y" }, lists: ["a"] };
  const made = change(contact, { fields: { one: "z", two: null, three: 1 }, join: ["b"], leave: ["a"] })!;
  const since = { ...made.next, fields: { ...made.next.fields, one: "mine" }, status: "bounced" as const };
  expect(undone(since, made.done)).toEqual({
    status: "bounced",
    fields: { one: "mine", two: "y" },
    lists: ["a"],
  });
});

test("what changes nothing is no change", () => {
  const contact: ContactState = { status: "subscribed", fields: { one: ["p"] }, lists: ["a"] };
  expect(
    change(contact, { status: "subscribed", fields: { one: ["p"], two: null }, join: ["a"] }),
  ).toBeNull();
});
