/** Files of contacts as people have them, and as nobody should. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BASE_FIELDS, type FieldDef } from "../audience";
import { ColumnWatch, CsvReader, keyFor } from "../tables";
import {
  CARD_COLUMNS,
  cardsAsRecords,
  guessColumns,
  isCards,
  isTurned,
  lineReader,
  type Meaning,
  type Plan,
  readStatus,
} from ".";

const FIELDS: FieldDef[] = [
  ...BASE_FIELDS,
  { key: "plot", label: "Plot", kind: "choice", options: [{ value: "g", label: "Garden" }] },
  {
    key: "branch",
    label: "Branch",
    kind: "record",
    table: "t",
    options: [{ value: "r1", label: "Marl Bay" }],
  },
  { key: "spent", label: "Spent", kind: "money", currency: "GBP" },
  { key: "member", label: "Member", kind: "boolean" },
  { key: "interests", label: "Interests", kind: "set" },
];
const HEADER = [
  "E-Mail",
  "Vorname",
  "Kunde seit",
  "Plot",
  "Filiale",
  "Spent",
  "Member",
  "Interests",
  "Lists",
  "Status",
];
const field = (key: string) => ({ to: "field" as const, field: key });
const plan = (more: Partial<Plan> = {}): Plan => ({
  columns: [
    field("email"),
    field("first_name"),
    field("joined"),
    field("plot"),
    field("branch"),
    field("spent"),
    field("member"),
    field("interests"),
    { to: "lists" as const },
    { to: "status" as const, turned: false, means: {} },
  ].map((target) => ({ target, dates: "dmy", decimal: "," })),
  known: "update",
  lists: [],
  newList: "",
  consent: { source: "", date: "" },
  lenient: false,
  ...more,
});
/** A short line is filled up with nothing, and may be written to. */
const read = (cells: string[], more: Partial<Plan> = {}) => {
  const all = cells.length < 10 ? [...cells, ...Array(9 - cells.length).fill(""), "active"] : cells;
  const { status: _, ...line } = lineReader(plan(more), HEADER, FIELDS, 2026)([...all]);
  return line;
};

describe("lines", () => {
  test("become what a contact is given, by the kinds of the fields", () => {
    const cells = [
      "Ines <ines@a.example>",
      " Ines\nMaria ",
      "3.4.2021",
      "garden",
      "marl bay",
      "1.234,50 €",
      "ja",
      "herbs; tools",
      "Letter, Club",
      "Unsubscribed",
    ];
    expect(read(cells)).toEqual({
      given: {
        email: "ines@a.example",
        fields: {
          first_name: "Ines Maria",
          joined: "2021-04-03",
          plot: "g",
          branch: "r1",
          spent: 1234.5,
          member: true,
          interests: ["herbs", "tools"],
        },
        lists: ["Letter", "Club"],
        status: "unsubscribed",
      },
      left: [],
    });
  });

  test.each([
    [["karla.mail.example"], "“karla.mail.example” is no address"],
    [["", "Ines"], "has no address"],
    [["a@a.example", "", "31.02.2020"], "“Joined” should be a day, not “31.02.2020”"],
    [["a@a.example", "", "", "castle"], "“Plot” cannot be “castle”"],
    [["a@a.example", "", "", "", "Nowhere"], "“Branch” cannot be “Nowhere”"],
    [["a@a.example", "x".repeat(1_000_000)], "“First name” has more than 2000 characters"],
    [[...HEADER], "is the header once more"],
    [["a@a.example", ...Array(10).fill("x")], "has 11 cells, the first line 10"],
  ])("%j cannot be read, for a reason", (cells, reason) => {
    expect(read(cells)).toEqual({ reason });
  });

  test("that are short lack what is missing; too long ones of nothing are fine", () => {
    expect(read(["a@a.example"])).toMatchObject({ given: { email: "a@a.example", fields: {} } });
    expect(read(["a@a.example", ...Array(8).fill(""), "active", ...Array(5).fill("")])).toMatchObject({
      given: { email: "a@a.example" },
    });
  });

  test("are taken without what does not fit when that is wanted", () => {
    expect(read(["a@a.example", "Ines", "never"], { lenient: true })).toEqual({
      given: { email: "a@a.example", fields: { first_name: "Ines" }, lists: [], status: null },
      left: ["“Joined” should be a day, not “never”"],
    });
  });
});

describe("whether somebody may be written to", () => {
  const meaning = (word: string, turned = false) => readStatus(word, turned, {});

  test.each<[Meaning, string]>([
    [
      "subscribed",
      "Subscribed|ACTIVE|opt-in|ja|oui|sí|sì|yes|1|true|x|Abonniert|abonné|tak|sim|zapisany|ingeschreven",
    ],
    [
      "unsubscribed",
      "nein|non|no|nee|nie|não|0|false|n|inaktiv|gekündigt|gesperrt|opt out|Opt-Out|opted_out|suppressed|do not email|DO-NOT-EMAIL|removed|unsubscribed|désabonnée|dado de baja|disiscritto|uitgeschreven|descadastrado|wypisany|usunięty|cancelled",
    ],
    ["bounced", "bounced|hard bounce|invalid|unzustellbar|ongeldig|nieprawidłowy"],
    ["complained", "spam complaint|Spam|complained|Beschwerde|plainte|klacht|skarga"],
    ["out", "pending|unconfirmed|ausstehend|en attente|pendiente|in attesa|oczekujący"],
  ])("%s is said in many languages", (means, words) => {
    for (const word of words.split("|")) expect([word, meaning(word)]).toEqual([word, means]);
  });

  test("is known of no word by chance, nor of an empty cell", () => {
    const odd = fc.string({ maxLength: 12 }).filter((word) => !/^[yntfjosx01]$/i.test(word.trim()));
    fc.assert(
      fc.property(odd, (word) => {
        const read = meaning(`quux ${word}`);
        expect(read).toBeNull();
      }),
    );
    for (const word of ["", "-", "  ", "gold", "toString", "__proto__"]) expect(meaning(word)).toBeNull();
  });

  test("is turned round where a column says who left", () => {
    for (const name of ["Opt-out", "Unsubscribed", "abgemeldet", "Do not email", "gesperrt"])
      expect([name, isTurned(name)]).toEqual([name, true]);
    for (const name of ["Opt-in", "Subscribed", "Status", "abonniert"])
      expect([name, isTurned(name)]).toEqual([name, false]);
    expect([meaning("yes", true), meaning("no", true)]).toEqual(["unsubscribed", "subscribed"]);
    expect(meaning("unsubscribed", true)).toBe("unsubscribed");
  });

  const line = (word: string, means: Record<string, Meaning> = {}) => {
    const columns: Plan["columns"] = [
      { target: { to: "field", field: "email" }, dates: "dmy", decimal: "," },
      { target: { to: "status", turned: false, means }, dates: "dmy", decimal: "," },
    ];
    return lineReader(plan({ columns }), ["Email", "State"], FIELDS, 2026)(["a@a.example", word]);
  };

  test("is asked where a word is not known: the line is not taken by a guess", () => {
    expect(line("Gold")).toEqual({
      reason: "“Gold” in “State” is not known: say what it means",
      status: { word: "gold", said: "Gold", meaning: null },
    });
    expect(line("")).toMatchObject({ reason: expect.stringContaining("has nothing in “State”") });
    expect(line("Pending")).toMatchObject({ reason: "is left out because of “Pending” in “State”" });
    expect(line("GOLD", { gold: "subscribed" })).toMatchObject({ given: { status: null } });
    expect(line("gold", { gold: "complained" })).toMatchObject({ given: { status: "complained" } });
    expect(line("", { "": "unsubscribed" })).toMatchObject({ given: { status: "unsubscribed" } });
  });

  test("is what a column about agreeing says that has yes and no in it, else it says how they agreed", () => {
    const facts = (name: string, cells: string[]) => {
      const watch = new ColumnWatch(name, 2026);
      for (const cell of cells) watch.take(cell);
      return watch.facts();
    };
    const target = (name: string, cells: string[]) => guessColumns([facts(name, cells)], FIELDS)[0].target;
    expect(target("Opt-in", ["yes", "no", "yes", "yes"])).toMatchObject({ to: "status", turned: false });
    expect(target("Opt-Out", ["ja", "nein", "ja", "nein"])).toMatchObject({ to: "status", turned: true });
    expect(target("Einwilligung", ["nein", "abgemeldet", "ja"])).toMatchObject({ to: "status" });
    expect(target("Opt-in", ["at the fair", "on paper", "web form"]).to).not.toBe("status");
  });
});

test("columns are known by their names and by what stands in them, none twice", () => {
  const columns: [string, string[]][] = [
    ["Vorname", ["Maël", "Zoë"]],
    ["Nachname", ["Lindqvist"]],
    ["Kontakt", ["mael@post.example", "zoe@post.example"]],
    ["First name", ["again"]],
    ["PLZ", ["04277", "01099"]],
    ["Geworben", ["03.04.2021", "28.02.2022"]],
    ["Umsatz", ["1.234,50", "12,00"]],
    ["Listen", ["Letter"]],
  ];
  const facts = columns.map(([name, cells]) => {
    const watch = new ColumnWatch(name, 2026);
    for (const cell of cells) watch.take(cell);
    return watch.facts();
  });
  expect(facts.map(({ kind }) => kind)).toEqual([
    "text",
    "text",
    "address",
    "text",
    "text",
    "date",
    "number",
    "text",
  ]);
  expect([facts[5].dates, facts[6].decimal, facts[0].filled]).toEqual(["dmy", ",", 2]);
  const targets = guessColumns(facts, BASE_FIELDS).map(({ target }) =>
    target.to === "field" ? target.field : target.to,
  );
  expect(targets).toEqual([
    "first_name",
    "last_name",
    "email",
    "nothing",
    "nothing",
    "nothing",
    "nothing",
    "lists",
  ]);
});

test("a key for a new field is plain and nobody else's", () => {
  expect(keyFor("Größe (cm)", new Set())).toBe(
    "große_cm".normalize("NFKD").replace(/\p{M}/gu, "").replace("ß", "_"),
  );
  expect(keyFor("2nd phone", new Set(["nd_phone"]))).toBe("nd_phone_2");
  expect(keyFor("名前", new Set())).toBe("field");
});

test("vCards of several versions become lines", () => {
  const text = [
    "BEGIN:VCARD",
    "VERSION:3.0",
    "N:Calder;Ines;;;",
    "FN:Ines Calder",
    "EMAIL;TYPE=home:old@a.example",
    "EMAIL;TYPE=PREF,work:ines@a.example",
    "BDAY:1988-02-29",
    "ORG:Tansy Row\\, Ltd;Seeds",
    "NOTE:A long note that",
    "  goes on\\nand on",
    "CATEGORIES:Letter,Club",
    "END:VCARD",
    "BEGIN:VCARD",
    "VERSION:2.1",
    "N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;J=C3=",
    "=B6rg",
    "item1.EMAIL;INTERNET:jorg@a.example",
    "ADR;HOME:;;3 Nursery Lane;Alderwick;;AL4 2TR;England",
    "END:VCARD",
    "BEGIN:VCARD",
    "VERSION:4.0",
    "FN:Maud Vance",
    "EMAIL:mailto:maud@a.example",
    "END:VCARD",
  ].join("\r\n");
  expect(isCards(text)).toBe(true);
  expect(isCards("name,email\n")).toBe(false);
  const at = (line: string[], column: string) => line[CARD_COLUMNS.indexOf(column)];
  const found = cardsAsRecords(text);
  expect(found.map(({ line }) => line)).toEqual([1, 13, 20]);
  const [ines, jorg, maud] = found.map(({ cells }) => cells);
  expect(
    ["First name", "Last name", "Email address", "Birthday", "Organisation", "Note", "Lists"].map((it) =>
      at(ines, it),
    ),
  ).toEqual([
    "Ines",
    "Calder",
    "ines@a.example",
    "1988-02-29",
    "Tansy Row, Ltd",
    "A long note that goes on and on",
    "Letter, Club",
  ]);
  expect(["First name", "Last name", "Email address", "City", "Postcode"].map((it) => at(jorg, it))).toEqual([
    "Jörg",
    "Müller",
    "jorg@a.example",
    "Alderwick",
    "AL4 2TR",
  ]);
  expect(["First name", "Last name", "Email address"].map((it) => at(maud, it))).toEqual([
    "Maud",
    "Vance",
    "maud@a.example",
  ]);
});

describe("files that mean harm are read in a time that grows as they do", () => {
  const CARDS: [string, (size: number) => string][] = [
    ["lines that go on", (size) => `BEGIN:VCARD\nNOTE:a\n${" b\n".repeat(size)}END:VCARD`],
    [
      "lines in quoted-printable that go on",
      (size) => `BEGIN:VCARD\nNOTE;ENCODING=QUOTED-PRINTABLE:a=\n${"b=\n".repeat(size)}END:VCARD`,
    ],
    ["a mark at the end of a name", (size) => `BEGIN:VCARD\nN:${"a".repeat(size)}\\\nEND:VCARD`],
    ["parameters without an end", (size) => `BEGIN:VCARD\nN${";a".repeat(size)}\nEND:VCARD`],
    ["quotation marks without an end", (size) => `BEGIN:VCARD\nN;${'"'.repeat(size)}\nEND:VCARD`],
    ["many cards", (size) => "BEGIN:VCARD\nFN:A\nEND:VCARD\n".repeat(size / 4)],
    ["many properties", (size) => `BEGIN:VCARD\n${"NOTE:x\n".repeat(size)}END:VCARD`],
  ];
  test.each(CARDS)("%s", (_what, make) => {
    const took = (size: number) => {
      const text = make(size);
      const begun = performance.now();
      cardsAsRecords(text);
      return performance.now() - begun;
    };
    took(1000);
    // Ten times as much takes about ten times as long; what grows with the square takes a hundred times as long.
    expect(took(400_000)).toBeLessThan(500 + 40 * Math.max(took(40_000), took(40_000)));
  });

  test.each([
    ["the first line", ""],
    ["a later line", "a,b\n1,2\n"],
  ])("%s of commas alone is named before it takes the memory", (_what, before) => {
    const reader = new CsvReader(",");
    reader.push(before);
    let pushed = 0;
    const push = () => {
      for (; pushed < 1000; pushed++) reader.push(",".repeat(60_000));
    };
    expect(push).toThrow(/more than 20,000 cells/);
    expect(pushed).toBeLessThan(3);
  });

  test("a line of many long cells is named, too", () => {
    const reader = new CsvReader(",");
    const push = () => {
      for (let at = 0; at < 100; at++) reader.push(`${"x".repeat(1_000_000)},`);
    };
    expect(push).toThrow(/Line 1 has more than 16,000,000 characters/);
  });
});
