/** Files of contacts as people have them, and as nobody should. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BASE_FIELDS, type FieldDef } from "../audience";
import {
  CARD_COLUMNS,
  ColumnWatch,
  CsvReader,
  CsvTrouble,
  cardsAsRecords,
  EncodingFinder,
  findDialect,
  guessColumns,
  isCards,
  isTurned,
  keyFor,
  lineReader,
  type Meaning,
  type Plan,
  readBoolean,
  readDate,
  readNumber,
  readStatus,
} from ".";

/** All records of a text, given in pieces of some length. */
function records(text: string, delimiter = ",", length = 7) {
  const reader = new CsvReader(delimiter);
  const found = [];
  for (let at = 0; at < text.length; at += length) found.push(...reader.push(text.slice(at, at + length)));
  return [...found, ...reader.end()];
}

describe("comma-separated values", () => {
  test("whatever is written by the rules comes back, cut anywhere", () => {
    const cell = fc.string({ unit: fc.constantFrom("a", "ü", ",", ";", '"', "\n", "\r\n", " ", "🌱", "\r") });
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { maxLength: 6 }),
        fc.constantFrom("\n", "\r\n", "\r"),
        fc.constantFrom(",", ";", "\t"),
        fc.integer({ min: 1, max: 9 }),
        (rows, end, delimiter, length) => {
          const text = rows
            .map((cells) => cells.map((it) => `"${it.replaceAll('"', '""')}"`).join(delimiter) + end)
            .join("");
          const written = rows.filter((cells) => cells.some((it) => it !== ""));
          expect(records(text, delimiter, length).map(({ cells }) => cells)).toEqual(written);
        },
      ),
      { numRuns: 400 },
    );
  });

  test("lines are counted as editors count them, with all line ends mixed and cells over several lines", () => {
    expect(records('a,b\r\n"c\nd\r\ne",f\rg,h\n\n"i",j')).toEqual([
      { line: 1, cells: ["a", "b"] },
      { line: 2, cells: ["c\nd\r\ne", "f"] },
      { line: 5, cells: ["g", "h"] },
      { line: 7, cells: ["i", "j"] },
    ]);
  });

  test.each([
    ['say "hi",b', ['say "hi"', "b"]],
    ['"a ""quoted"" word",b', ['a "quoted" word', "b"]],
    ['"not doubled" inside,b', ["not doubled inside", "b"]],
    ["a,,", ["a", "", ""]],
    ['"",x', ["", "x"]],
  ])("%s is read as people mean it", (line, cells) => {
    for (const length of [1, 3, 100])
      expect(records(`${line}\n`, ",", length).map((it) => it.cells)).toEqual([cells]);
  });

  test("a mark that is never closed is told with its line", () => {
    const text = 'a,b\nc,"d\ne,f\ng,h\n';
    expect(() => records(text)).toThrow(CsvTrouble);
    expect(() => records(text)).toThrow("opens in line 2 is never closed");
    const endless = () => records(`a,b\n"${"x".repeat(5_000_000)}`, ",", 65_536);
    expect(endless).toThrow("line 2 is not closed within");
  });

  test("a cell of a million characters is a cell, and 300 columns are columns", () => {
    const [{ cells }] = records(`"${"x".repeat(1_000_000)}",b\n`, ",", 65_536);
    expect([cells[0].length, cells[1]]).toEqual([1_000_000, "b"]);
    const wide = Array.from({ length: 300 }, (_, n) => `c${n}`);
    expect(records(`${wide.join(";")}\n`, ";")[0].cells).toEqual(wide);
  });

  test.each([
    ["name,email\nInes,i@a.example\n", ",", true],
    ["name;email\nInes, really;i@a.example\nMaud, too;m@a.example\n", ";", true],
    ["name\temail\nInes\ti@a.example\n", "\t", true],
    ["name|email\nInes|i@a.example\n", "|", true],
    ["i@a.example\nm@a.example\n", ",", false],
    ["email\ni@a.example\n", ",", true],
    ["Ines;i@a.example;5,5\nMaud;m@a.example;6,5\n", ";", false],
    ['a,"b;c;d;e"\nx@a.example,"f;g;h;i"\n', ",", true],
  ] as const)("%j is parted by %j, header %s", (text, delimiter, header) => {
    expect(findDialect(text)).toEqual({ delimiter, header });
  });
});

describe("encodings", () => {
  const find = (octets: Uint8Array, length = 5) => {
    const finder = new EncodingFinder();
    for (let at = 0; at < octets.length; at += length) finder.take(octets.slice(at, at + length));
    return finder.end();
  };
  const utf16 = (text: string, big: boolean) => {
    const octets = new Uint8Array(text.length * 2);
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      octets[2 * at + (big ? 1 : 0)] = code & 255;
      octets[2 * at + (big ? 0 : 1)] = code >> 8;
    }
    return octets;
  };
  const text = "name;email\nZoë;z@a.example\n";

  test("are told by marks, by how letters lie, and Latin-1 by its last line", () => {
    expect(find(new TextEncoder().encode(text))).toEqual({ encoding: "utf-8" });
    expect(find(new TextEncoder().encode(`\ufeff${text}`))).toEqual({ encoding: "utf-8" });
    for (const big of [false, true]) {
      const encoding = big ? "utf-16be" : "utf-16le";
      expect(find(utf16(text, big))).toEqual({ encoding });
      expect(find(utf16(`\ufeff${text}`, big))).toEqual({ encoding });
    }
    const late = `${"a;b\n".repeat(30_000)}Zo`;
    expect(find(Uint8Array.from([...new TextEncoder().encode(late), 0xeb, 0x0a]), 4096)).toEqual({
      encoding: "windows-1252",
    });
    expect(find(new TextEncoder().encode(`${late}ë`).slice(0, -1))).toEqual({ encoding: "windows-1252" });
  });

  test.each([
    [[], "is empty"],
    [[0x4d, 0x5a, 0x90, 0x00, 0x03], "a program"],
    [[0x7f, 0x45, 0x4c, 0x46, 0x02], "a program"],
    [[0x50, 0x4b, 0x03, 0x04, 0x14], "save the sheet as CSV"],
    [[0x89, 0x50, 0x4e, 0x47], "a picture"],
    [[0x61, 0x00, 0x00, 0x00, 0x62, 0x00], "no letter"],
  ])("what begins with %j is refused in words", (octets, words) => {
    expect(find(Uint8Array.from(octets))).toEqual({ problem: expect.stringContaining(words) });
  });
});

describe("values as people write them", () => {
  test.each([
    ["2026-12-03", "dmy", "2026-12-03"],
    ["20261203", "dmy", "2026-12-03"],
    ["3.12.2026", "dmy", "2026-12-03"],
    ["3. 12. 2026", "dmy", "2026-12-03"],
    ["12/03/2026", "mdy", "2026-12-03"],
    ["03/12/2026 14:05", "dmy", "2026-12-03"],
    ["2026-12-03T14:05:09.000Z", "dmy", "2026-12-03"],
    ["3 December 2026", "dmy", "2026-12-03"],
    ["3-Dec-2026", "mdy", "2026-12-03"],
    ["Dec 3rd, 2026", "dmy", "2026-12-03"],
    ["29.2.24", "dmy", "2024-02-29"],
    ["01.02.65", "dmy", "1965-02-01"],
    ["31.02.2020", "dmy", null],
    ["29.2.2023", "dmy", null],
    ["13/13/2020", "mdy", null],
    ["yesterday", "dmy", null],
  ] as const)("the day %s, %s, is %s", (text, order, day) => {
    expect(readDate(text, order, 2026)).toBe(day);
  });

  test.each([
    ["1,234.50", ".", 1234.5],
    ["1.234,50", ",", 1234.5],
    ["€ 12", ".", 12],
    ["12,5 EUR", ",", 12.5],
    ["-3", ".", -3],
    ["1 234", ",", 1234],
    ["1'234.5", ".", 1234.5],
    ["1.2.3", ".", null],
    ["12 apples", ".", null],
    ["AL4 2TR", ".", null],
    ["EC1A 1BB", ".", null],
    ["12 34", ".", null],
    ["GBP 7", ".", 7],
    ["", ".", null],
  ] as const)("the number %s with %s is %s", (text, decimal, number) => {
    expect(readNumber(text, decimal)).toBe(number);
  });

  test("yes and no in several languages, and nothing else", () => {
    expect(["Ja", "oui", "TRUE", "x", "nein", "0", "maybe"].map(readBoolean)).toEqual([
      true,
      true,
      true,
      true,
      false,
      false,
      null,
    ]);
  });
});

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
