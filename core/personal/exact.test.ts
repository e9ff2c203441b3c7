/** Editions are exactly the distinct messages, whatever a design is made of. */
import fc from "fast-check";
import { expect, test } from "vitest";
import type { Contact, Rule } from "../audience";
import { createBlock } from "../blocks";
import { type Block, type Email, type Inline, type Lookup, MergeTagSchema, SCHEMA_VERSION } from "../email";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact } from "../render/sample";
import {
  bind,
  type EditionCount,
  editionCounter,
  editionQuestions,
  editions,
  type FrozenProgram,
  frozenContact,
  hasWords,
  keeperOf,
  personalise,
  previewAddresses,
  readerOf,
  thaw,
} from ".";
import { byForce, messageOf } from "./by-force";

const FIELDS = ["a", "b", "c"] as const;
const VALUES = ["x", "y", "z"] as const;
const field = fc.constantFrom(...FIELDS);
const value = fc.constantFrom(...VALUES);
const leaf: fc.Arbitrary<Rule> = fc.oneof(
  fc.record({ kind: fc.constant("field" as const), field, op: fc.constant("is" as const), value }),
  fc.record({ kind: fc.constant("field" as const), field, op: fc.constant("known" as const) }),
);
const rule: fc.Arbitrary<Rule> = fc.oneof(
  { weight: 3, arbitrary: leaf },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constantFrom("all" as const, "any" as const, "none" as const),
      of: fc.array(leaf, { maxLength: 3 }),
    }),
  },
);

const word = fc.constantFrom("peas", "beans", "");
const lookups: fc.Arbitrary<Lookup[]> = fc
  .array(fc.record({ when: rule, value: fc.oneof(word, fc.constant("{$b else=|none|} rows")) }), {
    maxLength: 3,
  })
  .map((cases): Lookup[] => [
    {
      key: "l",
      name: "L",
      kind: "text",
      cases: cases.map(({ when, value: text }) => ({ name: "", when, value: { text } })),
      otherwise: { text: "everybody" },
    },
  ]);

const tag = fc
  .record({
    field: fc.oneof(field, fc.constantFrom("lookup.l", "code.k", "date.today")),
    format: fc.constantFrom("asIs", "longDate"),
    or: fc.option(field, { nil: undefined }),
    fallback: word,
  })
  .map((attrs): Inline => ({ type: "mergeTag", attrs: MergeTagSchema.parse(attrs) }));
const text = fc.constantFrom("one ", "two ").map((said): Inline => ({ type: "text", text: said }));
const line = fc.letrec<{ line: Inline[]; piece: Inline }>((tie) => ({
  line: fc.array(tie("piece"), { maxLength: 3 }),
  piece: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    text,
    tag,
    fc
      .record({
        cases: fc.array(fc.record({ when: rule, words: tie("line") }), { minLength: 1, maxLength: 2 }),
        otherwise: tie("line"),
      })
      .map((attrs): Inline => ({ type: "either", attrs })),
  ),
})).line;

const href = fc.constantFrom(
  "https://s.example/",
  "https://s.example/?who={$a else=|you|}",
  "{$lookup.l}",
  "{$a}",
  "{$c or=b}",
  "{$b else=|https://s.example/all|}",
  "{$lookup.l else=|https://s.example/l|}",
  "https://s.example/{$code.k}",
);
/** What is said in some other languages, among them two kinds of one. */
const spoken = <T>(said: fc.Arbitrary<T>) => {
  const there = fc.option(said, { nil: undefined });
  return fc
    .record({ de: there, "fr-CA": there, "en-US": there })
    .map((all) =>
      Object.entries(all).flatMap(([language, value]) =>
        value === undefined ? [] : [[language, value] as const],
      ),
    );
};
const block = fc
  .record({
    content: line,
    show: fc.option(rule, { nil: undefined }),
    href,
    words: spoken(line),
    hrefs: spoken(href),
  })
  .map(({ content, show, href: leads, words, hrefs }): Omit<Block, "id"> & { type: string } => ({
    ...createBlock("button", "x"),
    content,
    href: leads,
    ...(show && { show }),
    translations: Object.fromEntries(
      ["de", "fr-CA", "en-US"].map((language) => [
        language,
        Object.fromEntries([
          ...words
            .filter(([of]) => of === language)
            .map(([, said]) => ["content", { value: said, of: content }]),
          ...hrefs.filter(([of]) => of === language).map(([, said]) => ["href", { value: said, of: leads }]),
        ]),
      ]),
    ),
  }));

const email = fc
  .record({
    subject: line,
    there: spoken(line),
    blocks: fc.array(block, { maxLength: 4 }),
    show: fc.option(rule, { nil: undefined }),
  })
  .map(
    ({ subject, there, blocks, show }): Email => ({
      schema: SCHEMA_VERSION,
      language: "en",
      theme: "plain",
      translations: Object.fromEntries(
        there.map(([language, said]) => [language, { subject: { value: said, of: subject } }]),
      ),
      envelope: { subject, preheader: [], sender: { name: [], address: "a@b.example" } },
      sections: [
        {
          id: "s",
          ...(show && { show }),
          rows: [
            {
              id: "r",
              columns: [
                { id: "c", width: 100, blocks: blocks.map((one, at) => ({ ...one, id: `b${at}` }) as Block) },
              ],
            },
          ],
        },
      ],
    }),
  );

const SPOKEN = ["de", "de-AT", "fr", "fr_CA", "en-US", "EN", "nl", ""] as const;

/** All readers there can be: each field missing, empty, or one of the values; their languages in turn. */
const EVERYBODY: Contact[] = FIELDS.reduce<Record<string, unknown>[]>(
  (all, key) =>
    all.flatMap((it) => [it, { ...it, [key]: "" }, ...VALUES.map((one) => ({ ...it, [key]: one }))]),
  [{}],
)
  .map((fields, at) => (at % 9 === 8 ? fields : { ...fields, language: SPOKEN[at % 9] }))
  .map((fields, id) => sampleContact(id + 1, fields));

test("editions are the distinct messages that rendering everybody gives, and as many readers get each", () => {
  fc.assert(
    fc.property(email, lookups, (design, known) => {
      const options = { ...SAMPLE_OPTIONS, lookups: known, codes: [{ key: "k", name: "K", example: "E" }] };
      const bound = bind(compile(design, options), {
        audience: { today: "2026-03-30", segments: new Map() },
      });
      const found = editions(bound, EVERYBODY);
      expect(found.map(({ count }) => count)).toEqual(byForce(bound, EVERYBODY));
      // And whoever is said to get one gets its message.
      const messages = new Map<string, string>();
      for (const contact of EVERYBODY) {
        const [{ key }] = editions(bound, [contact]);
        const own = found.find((it) => it.key === key || it.also.includes(key))!;
        const said = messageOf(bound, contact);
        expect(messages.get(own.key) ?? said).toBe(said);
        messages.set(own.key, said);
      }
    }),
    { numRuns: 60 },
  );
});

test("a program that was kept makes the same messages of an edition and a few facts, whatever else is known of a reader", () => {
  fc.assert(
    fc.property(email, lookups, (design, known) => {
      const options = { ...SAMPLE_OPTIONS, lookups: known, codes: [{ key: "k", name: "K", example: "E" }] };
      const bound = bind(compile(design, options), {
        audience: { today: "2026-03-30", segments: new Map() },
      });
      const { fields } = editionQuestions(bound);
      const at = (reader: number) => EVERYBODY[reader - 1];
      const counter = editionCounter(bound, {
        meets: (rule, reader) => bound.rules[rule](at(reader)),
        writes: (which, reader) => fields[which].some((one) => hasWords(one, at(reader))),
        language: (reader) => (at(reader).fields.language as string | undefined) ?? null,
      });
      const places = new Map<EditionCount, number>();
      const theirs: number[] = [];
      counter.take(
        EVERYBODY.map(({ id }) => id),
        (_, edition) => {
          if (!places.has(edition)) places.set(edition, places.size);
          theirs.push(places.get(edition)!);
        },
      );
      const keeper = keeperOf(bound);
      const facts = EVERYBODY.map((contact) => keeper.facts(contact));
      const kept = JSON.parse(JSON.stringify(keeper.freeze([...places.keys()]))) as FrozenProgram;
      const thawed = thaw(kept);
      for (const [index, contact] of EVERYBODY.entries()) {
        const { id, email: address } = contact;
        const later = { id, email: address, edition: theirs[index], facts: facts[index] };
        const message = (of: typeof bound, who: Contact) =>
          personalise(of, readerOf(who, bound.language, previewAddresses("https://s.example"), { k: "K-1" }));
        const again = frozenContact(JSON.parse(JSON.stringify(later)) as typeof later);
        expect(message(thawed, again)).toEqual(message(bound, contact));
      }
    }),
    { numRuns: 60 },
  );
});
