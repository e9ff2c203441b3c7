/** The editions of the demo's letter, with everything in it that can differ, over all of the demo's readers. */
import { expect, test } from "vitest";
import { type Contact, factsBehind, predicate, type Rule, withFacts } from "~/core/audience";
import { blocksOf, type Email, MergeTagSchema, resolveTheme } from "~/core/email";
import { bind, editions } from "~/core/personal";
import { byForce } from "~/core/personal/by-force";
import { compile } from "~/core/render";
import { SAMPLE_BRAND } from "~/core/render/sample";
import { demoTables } from "./branches";
import { demoContacts } from "./contacts";
import { sowingLetter } from "./emails";
import { demoLookups } from "./wording";

const MEMBERS: Rule = { kind: "field", field: "member", op: "yes" };

/** The letter with an either/or in its subject and one in a sentence, a lookup in words, as a link and as the sender, and a code. */
function letter(): Email {
  let next = 0;
  const email = sowingLetter({
    newId: () => `id${next++}`,
    brand: SAMPLE_BRAND,
    picture: (name) => ({ path: `/pictures/${name}.png`, width: 1200, height: 600 }),
    feed: "journal",
  });
  const tag = (field: string, more: object = {}) => ({
    type: "mergeTag" as const,
    attrs: MergeTagSchema.parse({ field, ...more }),
  });
  const either = (when: Rule, words: string, otherwise: string) => ({
    type: "either" as const,
    attrs: {
      cases: [{ when, words: [{ type: "text" as const, text: words }] }],
      otherwise: [{ type: "text" as const, text: otherwise }],
    },
  });
  email.envelope.subject = [...email.envelope.subject, either(MEMBERS, ", member", "")];
  email.envelope.sender = {
    name: [tag("lookup.branch_contact")],
    address: "{$lookup.branch_contact.address}",
  };
  for (const block of blocksOf(email)) {
    if (block.type === "button") block.href = "{$lookup.workshops}";
    if (block.type === "heading" && block.name === "Hold your beans")
      block.content = [
        ...(block.content as object[]),
        either({ kind: "field", field: "plot", op: "is", value: "balcony" }, " Pots will do.", ""),
        { type: "text", text: " Sow " },
        tag("lookup.first_outdoors"),
        { type: "text", text: " with " },
        tag("code.seed_tenth", { fallback: "your card" }),
      ];
  }
  return email;
}

test("the editions of 12,000 readers are what rendering all of them gives", { timeout: 120_000 }, () => {
  const records = new Map(
    demoTables({}).flatMap(({ table, records: all }) =>
      table.id === "branches" ? [["branch", factsBehind("branch", all)] as const] : [],
    ),
  );
  const contacts = demoContacts(12_000, "2026-11-25").map(
    ({ email, fields, lists }, id): Contact => ({
      id: id + 1,
      email,
      fields: withFacts(fields as Record<string, unknown>, records),
      lists: lists ?? [],
    }),
  );
  const segments = new Map<string, Rule>([["members", MEMBERS]]);
  const audience = { today: "2026-11-25", segments };
  const email = letter();
  const program = compile(email, {
    theme: resolveTheme(email.theme, []),
    brand: SAMPLE_BRAND,
    origin: "https://s.example",
    lookups: demoLookups(new Map()),
    codes: [{ key: "seed_tenth", name: "A tenth off seed", example: "EXAMPLE" }],
  });
  const bound = bind(program, { content: new Map([["journal", []]]), audience });
  const found = editions(bound, contacts);
  expect(found.length).toBeGreaterThan(100);
  expect(found.map(({ count }) => count)).toEqual(byForce(bound, contacts));
  const members = contacts.filter(predicate(MEMBERS, audience)).length;
  const saysSo = found.filter(({ sample }) => sample.fields.member === true);
  expect(saysSo.reduce((sum, { count }) => sum + count, 0)).toBe(members);
});
