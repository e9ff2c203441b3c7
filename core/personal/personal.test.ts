import fc from "fast-check";
import { expect, test } from "vitest";
import type { Contact } from "../audience";
import type { Inline } from "../email";
import { type Item, itemOf } from "../items";
import { quotedPrintable } from "../mime";
import { Pool, type Program, Writer } from "../program";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import {
  ByteSink,
  bind,
  bytePart,
  editions,
  personalise,
  previewAddresses,
  readerOf,
  readerValue,
  runBytes,
} from ".";

const world = sampleWorld("2026-11-23");
const bound = bind(compile(sampleEmail(40), SAMPLE_OPTIONS), world);

test("what only some items ask for does not stay in the program", () => {
  const pool = new Pool();
  const out = new Writer(pool);
  const list = pool.list({
    block: "b",
    source: "s",
    ways: [{ by: "given" }],
    count: 2,
    apart: false,
    unsent: 0,
    unbought: 0,
    sold: true,
  });
  const asked = (item: Item, inner: Writer) =>
    void inner.value({ field: item.id, fallback: "", format: "asIs", sink: "text" });
  out.item(list, 0, pool.variant(list, "html", asked));
  const html = out.finish();
  const parts = { subject: [], preheader: [], senderName: [], senderAddress: [], replyTo: [], recipient: [] };
  const program: Program = { pool, language: "en", ...parts, html, text: html, textWidth: 0, styleBytes: 0 };
  for (const id of ["journal", "shop"]) {
    const items = [itemOf({ id })];
    const filled = { ...world, picks: () => ({ items, pick: () => [{ at: 0, way: 0 }] }) };
    const bound = bind(program, filled);
    personalise(bound, readerOf(sampleContact(1, {}), "en", previewAddresses("https://x.example")));
    expect(bound.slots.map(({ field }) => field)).toEqual([id]);
  }
  expect(pool.slots).toEqual([]);
});

const people: fc.Arbitrary<Contact[]> = fc
  .array(
    fc.record(
      {
        zone: fc.constantFrom("cool", "mild", "warm", "other"),
        member: fc.boolean(),
        first_name: fc.constantFrom("Ines", "", "  ", "O’Rourke"),
        branch: fc.constantFrom("Alderwick", ""),
        language: fc.constantFrom("en", "fr"),
      },
      { requiredKeys: [] },
    ),
    { minLength: 1, maxLength: 60 },
  )
  .map((list) => list.map((fields, index) => sampleContact(index + 1, fields)));

/** The message with every value of the reader's own taken out: what two readers of one edition share. */
function shape(contact: Contact): string {
  const filled = Object.fromEntries(
    Object.entries(contact.fields).map(([key, value]) => [
      key,
      ["first_name", "branch"].includes(key) && typeof value === "string" && value.trim() !== ""
        ? "VALUE"
        : value,
    ]),
  );
  return JSON.stringify(
    personalise(bound, readerOf({ ...contact, fields: filled }, "en", previewAddresses("https://x.example"))),
  );
}

test("editions are exactly the distinct messages, and every reader is counted once", () => {
  fc.assert(
    fc.property(people, (contacts) => {
      const found = editions(bound, contacts);
      const counted = new Map<string, number>();
      for (const contact of contacts) counted.set(shape(contact), (counted.get(shape(contact)) ?? 0) + 1);
      expect(found.map((edition) => [shape(edition.sample), edition.count]).sort()).toEqual(
        [...counted].sort(),
      );
    }),
    { numRuns: 60 },
  );
});

test("an edition says which fallbacks fire", () => {
  const [edition] = editions(bound, [sampleContact(1, { first_name: "Ines" })]);
  expect(edition.fallbacks).toEqual(["branch"]);
  expect(edition.language).toBeNull();
});

test("who lacks a field and has the other gets no fallback, and is of the edition of those who have it", () => {
  const email = sampleEmail(2);
  const tag: Inline = {
    type: "mergeTag",
    attrs: { field: "nickname", or: "first_name", fallback: "friend", format: "asIs" },
  };
  email.envelope.subject = [{ type: "text", text: "Dear " }, tag];
  const named = bind(compile(email, SAMPLE_OPTIONS), world);
  const contacts = [
    sampleContact(1, { nickname: "Inny", first_name: "Ines" }),
    sampleContact(2, { first_name: "Maud" }),
    sampleContact(3, { nickname: " " }),
  ];
  const subject = (contact: Contact) =>
    personalise(named, readerOf(contact, "en", previewAddresses("https://x.example"))).subject;
  expect(contacts.map(subject)).toEqual(["Dear Inny", "Dear Maud", "Dear friend"]);
  const found = editions(named, contacts);
  expect(found.map(({ count, fallbacks }) => [count, fallbacks.includes("nickname")])).toEqual([
    [2, false],
    [1, true],
  ]);
});

test("running into bytes gives the same as running into text", () => {
  const utf8 = new TextEncoder();
  const part = bytePart(bound.html, (text) => utf8.encode(text));
  const sink = new ByteSink();
  for (const fields of [{}, { first_name: "Ñandú 🌱", zone: "cool", member: true }]) {
    const reader = readerOf(sampleContact(1, fields), "en", previewAddresses("https://x.example"));
    runBytes(part, bound, reader, sink);
    expect(new TextDecoder().decode(sink.take())).toBe(personalise(bound, reader).html);
  }
});

test("formats", () => {
  const reader = readerOf(
    sampleContact(1, {
      birthday: "1988-02-29",
      odd: "2023-02-31",
      name: "ines",
      sum: 1234.5,
      member: true,
      tags: ["a", "b"],
      language: "fr",
    }),
    "en",
    previewAddresses(""),
  );
  expect(readerValue("birthday", { format: "longDate" }, reader)).toBe("29 février 1988");
  expect(readerValue("odd", { format: "longDate" }, reader)).toBe("2023-02-31");
  expect(readerValue("name", { format: "capital" }, reader)).toBe("Ines");
  expect(readerValue("sum", { format: "number" }, reader)).toBe(new Intl.NumberFormat("fr").format(1234.5));
  expect(readerValue("tags", { format: "asIs" }, reader)).toBe("a, b");
  expect(readerValue("tags", { format: "list" }, reader)).toBe("a et b");
  expect(readerValue("gone", { format: "asIs" }, reader)).toBeNull();
  expect(
    readerValue(
      "name",
      { format: "upper" },
      readerOf(sampleContact(1, { name: "x", language: "not a language!" }), "en", previewAddresses("")),
    ),
  ).toBe("X");
});

test("quoted-printable pieces can be joined anywhere", () => {
  const decode = (bytes: Uint8Array) => {
    const text = Buffer.from(bytes).toString("latin1");
    for (const line of text.split("\r\n")) expect(line.length).toBeLessThanOrEqual(76);
    return Buffer.from(
      text
        .replace(/=\r\n/g, "")
        .replace(/=([0-9A-F]{2})/g, (_all, hex: string) => String.fromCharCode(Number.parseInt(hex, 16))),
      "latin1",
    ).toString("utf8");
  };
  fc.assert(
    fc.property(
      fc.array(fc.string({ unit: "grapheme", maxLength: 200 }).filter((text) => text.isWellFormed())),
      (pieces) => {
        const bytes = Buffer.concat(pieces.map((piece) => quotedPrintable(piece)));
        expect(decode(bytes)).toBe(
          pieces.map((piece) => piece.replace(/\r\n?/g, "\n").replace(/\n/g, "\r\n")).join(""),
        );
      },
    ),
  );
});
