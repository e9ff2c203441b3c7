import fc from "fast-check";
import { DomHandler, Parser } from "htmlparser2";
import { describe, expect, test } from "vitest";
import type { Rule } from "../../audience";
import { createBlock } from "../../blocks";
import { changeEmail, translate } from "../../compose";
import {
  type Email,
  EmailSchema,
  type Inline,
  type RichDoc,
  SCHEMA_VERSION,
  type Translated,
} from "../../email";
import { readXliff, translationOf, writeXliff, XliffError } from "..";

const words = (text: string): Inline[] => [{ type: "text", text }];
const bold = (text: string): Inline => ({ type: "text", text, marks: [{ type: "bold" }] });
const name: Inline = { type: "mergeTag", attrs: { field: "first_name", fallback: "friend", format: "asIs" } };
const cool: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const either = (one: Inline[], otherwise: Inline[]): Inline => ({
  type: "either",
  attrs: { cases: [{ when: cool, words: one }], otherwise },
});
const prose = (...lines: Inline[][]): RichDoc => ({
  type: "doc",
  content: lines.map((content) => ({ type: "paragraph", content })),
});

const SUBJECT = [
  ...words("Sow "),
  either([bold("peas"), { type: "text", text: " now" }], words("beans")),
  ...words(", "),
  name,
];
const BODY = prose(
  [...words("Dear "), name, { type: "hardBreak" }, bold("Two < three & four")],
  [],
  words("Second line"),
);

function letter(): Email {
  return EmailSchema.parse({
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "plain",
    envelope: {
      subject: SUBJECT,
      preheader: words("Soon"),
      sender: { name: words("Tansy Row"), address: "a@b.example" },
    },
    translations: { de: { preheader: { value: words("Bald"), of: words("Shortly") } }, fr: {} },
    sections: [
      {
        id: "s",
        rows: [
          {
            id: "r",
            columns: [
              {
                id: "c",
                width: 100,
                blocks: [
                  {
                    ...createBlock("text", "t"),
                    content: BODY,
                    translations: {
                      de: {
                        content: {
                          value: prose([...words("Liebe "), name], [], words("Zweite Zeile")),
                          of: BODY,
                        },
                      },
                    },
                  },
                  {
                    ...createBlock("image", "i"),
                    src: "/pictures/a.png",
                    alt: "A pea for {$first_name else=|you|}",
                    href: "https://shop.example/en",
                  },
                  createBlock("footer", "f"),
                ],
              },
            ],
          },
        ],
      },
    ],
  });
}

/** The email with what a file changes. */
function taken(email: Email, file: string): Email {
  const { language, changes } = readXliff(file, email);
  const command = translate(changes.map(({ unit, there: said }) => ({ unit, language, there: said })));
  return EmailSchema.parse(changeEmail(email, command).email);
}

/** What an independent script does to a file: gives a unit another target, whatever stood there. */
const retargeted = (file: string, unit: string, target: string, segment = "s1") =>
  file.replace(
    new RegExp(
      `(<unit id="${unit}"[\\s\\S]*?<segment id="${segment}")[^>]*>(<source>[\\s\\S]*?</source>)(<target>[\\s\\S]*?</target>)?`,
    ),
    `$1 state="translated">$2<target>${target}</target>`,
  );
const there = (email: Email, block: string | null, path: string, language = "de"): Translated | undefined =>
  translationOf(email, { block, path }, language);

describe("the file", () => {
  const file = writeXliff(letter(), "de", "What to sow <now>");

  test("is well-formed XML with every id once in its unit", () => {
    const problems: Error[] = [];
    const handler = new DomHandler((error) => error && problems.push(error));
    new Parser(handler, { xmlMode: true }).end(file);
    expect(problems).toEqual([]);
    expect(file).toContain(
      '<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de">',
    );
    for (const unit of file.split("<unit ").slice(1)) {
      const sources = [...unit.matchAll(/<source>([\s\S]*?)<\/source>/g)].map(([, it]) => it).join("");
      const ids = [...sources.matchAll(/<(?:pc|ph) id="([^"]+)"/g)].map(([, id]) => id);
      expect(new Set(ids).size).toBe(ids.length);
    }
    const units = [...file.matchAll(/<unit id="([^"]+)"/g)].map(([, id]) => id);
    expect(new Set(units).size).toBe(units.length);
    for (const [, flows] of file.matchAll(/subFlows="([^"]+)"/g))
      for (const id of flows.split(" ")) expect(units).toContain(id);
  });

  test("says what is done, outdated and missing", () => {
    const of = (unit: string) => file.slice(file.indexOf(`<unit id="${unit}"`)).split("</unit>")[0];
    expect(of("t:content")).toContain('state="translated"');
    expect(of("envelope:preheader")).toContain(
      'state="initial" subState="septima:outdated"><source>Soon</source><target>Bald</target>',
    );
    expect(of("envelope:subject")).toContain('state="initial"><source>');
    expect(of("envelope:subject")).not.toContain("<target>");
    expect(of("envelope:subject.p1.0")).toContain(
      '<pc id="m1" type="fmt" subType="xlf:b" dispStart="bold">peas</pc> now',
    );
    expect(of("t:content")).toContain("{$first_name else=|friend|}");
  });
});

describe("what comes back", () => {
  test("untouched it changes nothing, in every language", () => {
    for (const language of ["de", "fr"]) {
      const { changes, problems } = readXliff(writeXliff(letter(), language, "x"), letter());
      expect({ changes, problems }).toEqual({ changes: [], problems: [] });
    }
  });

  test("only changed texts change, with their tags, marks and breaks", () => {
    const email = letter();
    const file = retargeted(
      writeXliff(email, "de", "x"),
      "t:content",
      '<pc id="m1">Zwei &lt; drei</pc> für <ph id="p1"/>',
    );
    const { changes, problems } = readXliff(file, email);
    expect(changes.map(({ unit }) => unit.path)).toEqual(["content"]);
    expect(problems).toEqual([]);
    const { value, of } = changes[0].there;
    expect(of).toEqual(BODY);
    expect(value).toEqual(
      prose([bold("Zwei < drei"), { type: "text", text: " für " }, name], [], words("Zweite Zeile")),
    );
  });

  test("wording that differs comes back case by case, and its rules stay", () => {
    const email = letter();
    let file = retargeted(
      writeXliff(email, "fr", "x"),
      "envelope:subject",
      'Semez <ph id="p1"/>, <ph id="p2"/>',
    );
    file = retargeted(file, "envelope:subject.p1.0", '<pc id="m1">des pois</pc>');
    file = retargeted(file, "envelope:subject.p1.1", "des haricots");
    expect(there(taken(email, file), null, "subject", "fr")?.value).toEqual([
      ...words("Semez "),
      either([bold("des pois")], words("des haricots")),
      ...words(", "),
      name,
    ]);
  });

  test("a text with a typed tag comes back typed, an address as it is", () => {
    const email = letter();
    let file = retargeted(writeXliff(email, "de", "x"), "i:alt", 'Eine Erbse für <ph id="p1"/>!');
    file = retargeted(file, "i:href", "https://shop.example/de?a=1&amp;b=2");
    const next = taken(email, file);
    expect(there(next, "i", "alt")?.value).toBe("Eine Erbse für {$first_name else=|you|}!");
    expect(there(next, "i", "href")?.value).toBe("https://shop.example/de?a=1&b=2");
  });

  test("what was outdated and is confirmed is right again", () => {
    const email = letter();
    const file = writeXliff(email, "de", "x").replace(
      ' state="initial" subState="septima:outdated"',
      ' state="final"',
    );
    const { changes } = readXliff(file, email);
    expect(changes.map(({ there: it }) => it)).toEqual([{ value: words("Bald"), of: words("Soon") }]);
  });

  test("a design that went on meanwhile: the translation is taken, and is outdated", () => {
    const email = letter();
    const file = retargeted(writeXliff(email, "fr", "x"), "envelope:preheader", "Bientôt");
    const later = { ...email, envelope: { ...email.envelope, preheader: words("Very soon") } };
    const next = taken(later, file);
    expect(there(next, null, "preheader", "fr")).toEqual({ value: words("Bientôt"), of: words("Soon") });
  });

  test("lost and unknown codes, and texts that are gone, are said with their place", () => {
    const email = letter();
    let file = retargeted(writeXliff(email, "de", "x"), "t:content", 'Ohne <ph id="p99"/>Anrede');
    file = retargeted(file, "f:unsubscribeWords", "Abmelden").replace(
      'id="f:unsubscribeWords"',
      'id="f:gone"',
    );
    const { problems } = readXliff(file, email);
    expect(problems.join("\n")).toMatch(/Text “Dear.*: “\{\$first_name else=\|friend\|\}” is missing/);
    expect(problems.join("\n")).toContain("the code “p99” is not in the design");
    expect(problems.join("\n")).toContain("One text of the file is no longer in the design");
  });

  test("targets that a tool filled with the source are no translations", () => {
    const email = letter();
    const file = writeXliff(email, "fr", "x").replace(
      /<source>([\s\S]*?)<\/source>/g,
      "<source>$1</source><target>$1</target>",
    );
    expect(readXliff(file, email).changes).toEqual([]);
  });

  test("prefixes, annotations, parted and spanning codes are read, too", () => {
    const email = letter();
    const file = retargeted(
      writeXliff(email, "de", "x"),
      "t:content",
      '<mrk id="a1" type="term">Zwei</mrk> <sc id="m1"/>und<ec startRef="m1"/><cp hex="0021"/> <ph id="p1"/>',
    )
      .replaceAll(/<(\/?)(\w)/g, "<$1xlf:$2")
      .replace("<xlf:xml", "<xml")
      .replace("xmlns=", "xmlns:xlf=");
    const { changes } = readXliff(file, email);
    expect((changes[0].there.value as RichDoc).content[0]).toEqual({
      type: "paragraph",
      content: [{ type: "text", text: "Zwei " }, bold("und"), { type: "text", text: "! " }, name],
    });
  });

  test.each([
    ["", /no XLIFF file/],
    ["<html></html>", /no XLIFF file/],
    ['<xliff version="1.2"></xliff>', /XLIFF 1.2. Have it saved as XLIFF 2.0 or 2.1/],
    ['<xliff version="2.1" srcLang="en" trgLang="de"><file>', /ends in the middle/],
    ['<xliff version="2.1" srcLang="it" trgLang="de"></xliff>', /from Italian; this design is in English/],
    ['<xliff version="2.1" srcLang="en" trgLang="pl"></xliff>', /in Polish, which this design is not in/],
    ['<xliff version="2.1" srcLang="en"></xliff>', /“trgLang” is missing/],
  ])("what cannot be taken is refused with the reason: %s", (file, reason) => {
    expect(() => readXliff(file, letter())).toThrow(XliffError);
    expect(() => readXliff(file, letter())).toThrow(reason);
  });
});

const texts = (line: readonly Inline[]) => line.map((it) => (it.type === "text" ? it.text : "")).join("");

test("whatever words hold, out and back is the same, and all text of another translation arrives", () => {
  const text = fc
    .string({ unit: "grapheme", minLength: 1, maxLength: 8 })
    .map((it): Inline => ({ type: "text", text: it.replace(/\p{C}/gu, "·") }));
  const plain = fc.oneof(text, fc.constantFrom<Inline>(name, { type: "hardBreak" }, bold('b & < "c"')));
  const piece = fc.oneof(plain, fc.constant(either([bold("x")], [name])));
  const line = fc.array(piece, { maxLength: 6 });
  const saying = (source: Inline[], there: Inline[]): Email => ({
    ...letter(),
    envelope: { ...letter().envelope, subject: source },
    translations: { de: { subject: { value: there, of: source } } },
  });
  fc.assert(
    fc.property(line, line, fc.array(plain, { minLength: 1, maxLength: 6 }), (source, target, other) => {
      const email = saying(source, target);
      expect(readXliff(writeXliff(email, "de", "x"), email).changes).toEqual([]);
      if (source.length === 0) return;
      const next = taken(email, writeXliff(saying(source, other), "de", "x"));
      expect(texts(there(next, null, "subject")?.value as Inline[])).toBe(texts(other));
    }),
    { numRuns: 150 },
  );
});
