/** Tables as people have them, and as nobody should. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { CsvReader, CsvTrouble, EncodingFinder, findDialect, readBoolean, readDate, readNumber } from ".";

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
