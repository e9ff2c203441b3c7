/** Wording that differs: what each reader reads, in every part, against walking the cases by hand. */
import fc from "fast-check";
import { expect, test } from "vitest";
import { type Contact, predicate, type Rule } from "../audience";
import { createBlock } from "../blocks";
import { blankEmail, LAYOUTS } from "../compose";
import { type Block, type Email, type Inline, InlineSchema, TEXT_PART } from "../email";
import { blockText, compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact } from "../render/sample";
import {
  type Bound,
  ByteSink,
  bind,
  bytePart,
  editions,
  personalise,
  previewAddresses,
  readerOf,
  runBytes,
} from ".";

const audience = { today: "2026-11-23", segments: new Map<string, Rule>() };
const world = { audience };
const to = previewAddresses("https://x.example");

const anyRule: fc.Arbitrary<Rule> = fc.oneof(
  fc
    .constantFrom("cool", "mild", "warm")
    .map((value): Rule => ({ kind: "field", field: "zone", op: "is", value })),
  fc.constant<Rule>({ kind: "field", field: "member", op: "yes" }),
  fc.constant<Rule>({ kind: "none", of: [{ kind: "field", field: "orders", op: "atLeast", value: 2 }] }),
);

/** Words without spaces at their ends, so that nothing is trimmed away and lines are not broken within. */
const { line } = fc.letrec<{ line: Inline[] }>((tie) => ({
  line: fc.array(
    fc.oneof(
      { maxDepth: 3, depthSize: "small", withCrossShrink: true },
      fc
        .constantFrom("peas", "be<an>s", "kale & co", "“leek”")
        .map((text): Inline => ({ type: "text", text })),
      fc.constant<Inline>({ type: "text", text: "bold", marks: [{ type: "bold" }] }),
      fc.constantFrom("", "friend").map(
        (fallback): Inline => ({
          type: "mergeTag",
          attrs: { field: "first_name", fallback, format: "asIs" },
        }),
      ),
      fc
        .record({
          cases: fc.array(fc.record({ when: anyRule, words: tie("line") }), { minLength: 1, maxLength: 3 }),
          otherwise: tie("line"),
        })
        .map((attrs): Inline => ({ type: "either", attrs })),
    ),
    { maxLength: 4 },
  ),
}));

const person = fc.record(
  {
    zone: fc.constantFrom("cool", "mild", "other"),
    member: fc.boolean(),
    orders: fc.integer({ min: 0, max: 3 }),
    first_name: fc.constantFrom("Ines", ""),
  },
  { requiredKeys: [] },
);

const START: Inline = { type: "text", text: "«" };
const END: Inline = { type: "text", text: "»" };

function letter(subject: Inline[], body: Inline[]): Bound {
  let next = 0;
  const id = () => `e${next++}`;
  const email: Email = blankEmail(LAYOUTS[0], { name: "Tansy Row", address: "a@b.example" }, "plain", id);
  email.envelope.subject = [START, ...subject, END];
  const block = {
    ...createBlock("text", id()),
    content: { type: "doc", content: [{ type: "paragraph", content: [START, ...body, END] }] },
  } as Block;
  email.sections[0].rows[0].columns[0].blocks = [block];
  email.textPart = { ...TEXT_PART, width: 0 };
  return bind(compile(email, SAMPLE_OPTIONS), world);
}

/** What a reader reads, by walking the cases. */
function read(words: readonly Inline[], contact: Contact): string {
  return words
    .map((it) => {
      if (it.type === "text") return it.text;
      if (it.type === "mergeTag") return String(contact.fields.first_name || it.attrs.fallback);
      if (it.type === "hardBreak") return " ";
      const met = it.attrs.cases.find(({ when }) => predicate(when, audience)(contact));
      return read(met ? met.words : it.attrs.otherwise, contact);
    })
    .join("");
}

const between = (text: string) => /«([\s\S]*?)»/.exec(text)?.[1] ?? "nothing";
const unmarked = (html: string) =>
  html
    .replace(/<[^>]*>/g, "")
    .replaceAll("&lt;", "<")
    .replaceAll("&gt;", ">")
    .replaceAll("&amp;", "&");

test("each reader reads the words of their case, in the subject, in HTML and in text", () => {
  fc.assert(
    fc.property(line, line, person, (subject, body, fields) => {
      for (const it of [...subject, ...body]) expect(InlineSchema.parse(it)).toEqual(it);
      const contact = sampleContact(1, fields);
      const message = personalise(letter(subject, body), readerOf(contact, "en", to));
      expect(between(message.subject)).toBe(read(subject, contact));
      expect(unmarked(between(message.html.slice(message.html.indexOf("<body"))))).toBe(read(body, contact));
      expect(between(message.text)).toBe(read(body, contact));
    }),
    { numRuns: 150 },
  );
});

test("the text part that is taken over to be written by hand has the cases, too", () => {
  fc.assert(
    fc.property(line, person, (body, fields) => {
      const contact = sampleContact(1, fields);
      const block = {
        ...createBlock("text", "b1"),
        content: { type: "doc", content: [{ type: "paragraph", content: [START, ...body, END] }] },
      } as Block;
      const email = blankEmail(LAYOUTS[0], { name: "T", address: "a@b.example" }, "plain", () => "x");
      const taken = blockText(block, email, SAMPLE_OPTIONS);
      expect(between(read(taken ?? [], contact))).toBe(read(body, contact));
    }),
    { numRuns: 100 },
  );
});

test("editions are the distinct messages, and bytes say the same as text", () => {
  const utf8 = new TextEncoder();
  fc.assert(
    fc.property(line, line, fc.array(person, { minLength: 1, maxLength: 30 }), (subject, body, people) => {
      const bound = letter(subject, body);
      const contacts = people.map((fields, index) => sampleContact(index + 1, fields));
      const shape = (contact: Contact) => {
        const named = contact.fields.first_name ? { ...contact.fields, first_name: "NAME" } : contact.fields;
        return JSON.stringify(personalise(bound, readerOf({ ...contact, fields: named }, "en", to)));
      };
      const messages = new Map<string, number>();
      for (const contact of contacts) messages.set(shape(contact), (messages.get(shape(contact)) ?? 0) + 1);
      const counted = new Map<string, number>();
      for (const { sample, count } of editions(bound, contacts))
        counted.set(shape(sample), (counted.get(shape(sample)) ?? 0) + count);
      expect([...counted].sort()).toEqual([...messages].sort());
      const part = bytePart(bound.html, (text) => utf8.encode(text));
      const sink = new ByteSink();
      const reader = readerOf(contacts[0], "en", to);
      runBytes(part, bound, reader, sink);
      expect(new TextDecoder().decode(sink.take())).toBe(personalise(bound, reader).html);
    }),
    { numRuns: 60 },
  );
});
