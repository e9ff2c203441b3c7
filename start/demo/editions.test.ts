/** The editions of the demo's letter, with everything in it that can differ, over all of the demo's readers. */
import { expect, test } from "vitest";
import { type Contact, factsBehind, predicate, type Rule, withFacts } from "~/core/audience";
import { type Email, resolveTheme } from "~/core/email";
import { bind, editions, personalise, previewAddresses, readerOf } from "~/core/personal";
import { byForce } from "~/core/personal/by-force";
import { compile } from "~/core/render";
import { SAMPLE_BRAND } from "~/core/render/sample";
import { demoTables } from "./branches";
import { demoContacts } from "./contacts";
import { draftLetter } from "./draft";
import { demoLookups } from "./wording";

const MEMBERS: Rule = { kind: "field", field: "member", op: "yes" };

/** The draft as the demo has it. */
function letter(): Email {
  let next = 0;
  return draftLetter({
    newId: () => `id${next++}`,
    brand: SAMPLE_BRAND,
    picture: (name) => ({ path: `/pictures/${name}.png`, width: 1200, height: 600 }),
    feed: "journal",
    shop: "shop",
  });
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
  const bound = bind(program, { audience });
  const found = editions(bound, contacts);
  expect(found.length).toBeGreaterThan(100);
  expect(found.map(({ count }) => count)).toEqual(byForce(bound, contacts));
  // At least nine in each of three languages, each with its own subject.
  for (const [language, said] of [
    ["en", "what to sow this month"],
    ["fr", "que semer ce mois-ci"],
    ["de", "was jetzt gesät wird"],
  ]) {
    const those = found.filter(({ sample }) => sample.fields.language === language);
    expect(those.length).toBeGreaterThan(9);
    for (const { sample } of those)
      expect(personalise(bound, readerOf(sample, "en", previewAddresses(""))).subject).toContain(said);
  }
  const members = contacts.filter(predicate(MEMBERS, audience)).length;
  const saysSo = found.filter(({ sample }) => sample.fields.member === true);
  expect(saysSo.reduce((sum, { count }) => sum + count, 0)).toBe(members);
});
