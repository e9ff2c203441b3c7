import { describe, expect, test } from "vitest";
import { predicate } from "../audience";
import { createBlock } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  EmailSchema,
  type Inline,
  richText,
  SCHEMA_VERSION,
} from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact } from "../render/sample";
import {
  languageAsked,
  languageFor,
  progressOf,
  translated,
  translatedBlock,
  translationState,
  unitKey,
  unitsOf,
  versionsOf,
} from ".";

const words = (text: string): Inline[] => [{ type: "text", text }];
const block = (more: object): Block => more as Block;

function emailWith(blocks: Block[], more: Partial<Email> = {}): Email {
  return EmailSchema.parse({
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "plain",
    envelope: {
      subject: words("What to sow"),
      preheader: words("This week"),
      sender: { name: words("Tansy Row"), address: "a@b.example" },
    },
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
    ...more,
  });
}

/** Everything of an email that can be, with the same said in a language with a mark before it. */
const inLanguage = (languages: string[]) =>
  emailWith([], { translations: Object.fromEntries(languages.map((language) => [language, {}])) });

const speaker = (language?: string) => sampleContact(1, language === undefined ? {} : { language });

describe("who gets which language", () => {
  test.each([
    [
      ["de", "fr"],
      { de: "de", "de-AT": "de", de_CH: "de", DE: "de", fr: "fr", en: "en", nl: "en", den: "en", "": "en" },
    ],
    [["pt-BR"], { pt: "pt-BR", "pt-PT": "pt-BR", "pt-BR": "pt-BR", pt_br: "pt-BR", en: "en" }],
    [["de", "de-AT"], { de: "de", "de-AT": "de-AT", "de-AT-1996": "de-AT", "de-CH": "de" }],
    [["en-US"], { en: "en", "en-GB": "en", "en-US": "en-US" }],
    [["zh-Hant", "zh-Hans"], { "zh-Hans-CN": "zh-Hans", "zh-Hant": "zh-Hant", zh: "zh-Hans" }],
  ])("in English and %s", (languages, wanted) => {
    const email = inLanguage(languages);
    for (const [reader, language] of Object.entries(wanted))
      expect([reader, languageFor(email, speaker(reader))]).toEqual([reader, language]);
    expect(languageFor(email, speaker())).toBe("en");
  });

  test("a design in a kind of a language keeps its own readers from the language at large", () => {
    const email = { ...inLanguage(["pt"]), language: "pt-BR" };
    expect(languageFor(email, speaker("pt-BR"))).toBe("pt-BR");
    expect(languageFor(email, speaker("pt-PT"))).toBe("pt");
    expect(languageFor(email, speaker("en"))).toBe("pt-BR");
  });

  test("the rules of the versions are known again, others are not", () => {
    const { when } = versionsOf(inLanguage(["de"]))[0];
    expect(languageAsked(when!)).toBe("de");
    expect(
      languageAsked({ kind: "any", of: [{ kind: "field", field: "language", op: "is", value: "de" }] }),
    ).toBe(null);
    expect(predicate(when!, { today: "2026-01-01", segments: new Map() })(speaker("de-AT"))).toBe(true);
  });
});

test("an email in one language is compiled as ever", () => {
  const email = emailWith([block({ ...createBlock("heading", "h"), content: words("Peas") })]);
  expect(compile(email, SAMPLE_OPTIONS).pool.rules).toEqual([]);
  expect(versionsOf(email)).toEqual([{ language: "en", email }]);
  expect(translated(email, "de")).toBe(email);
});

describe("what a reader of another language gets", () => {
  const picture = {
    src: "/pictures/a.png",
    alt: "A pea",
    decorative: false,
    natural: { width: 600, height: 300 },
  };
  const table = { ...createBlock("table", "t") } as Block & { rows: { id: string; cells: object }[] };
  const email = emailWith(
    [
      block({
        ...createBlock("heading", "h"),
        content: words("Peas"),
        translations: { de: { content: { value: words("Erbsen"), of: words("Peas") } } },
      }),
      block({
        ...createBlock("image", "i"),
        ...picture,
        href: "https://shop.example/en",
        translations: {
          de: {
            alt: { value: "Eine Erbse für {$first_name else=|dich|}", of: "A pea" },
            src: {
              value: { src: "/pictures/b.png", natural: { width: 300, height: 300 } },
              of: { src: picture.src, natural: picture.natural },
            },
            href: { value: "https://shop.example/de", of: "https://shop.example/en" },
          },
        },
      }),
      block({
        ...table,
        translations: {
          de: { [`rows.${table.rows[0].id}.cells.1`]: { value: words("Sorte"), of: [] } },
        },
      }),
      block({
        ...createBlock("footer", "f"),
        translations: { de: { unsubscribeWords: { value: "Abmelden", of: "Unsubscribe" } } },
      }),
      block({
        ...createBlock("text", "x"),
        content: richText("Only in English"),
        ownText: { words: words("Plain English"), basis: "b" },
      }),
    ],
    {
      translations: { de: { subject: { value: words("Was jetzt gesät wird"), of: words("What to sow") } } },
    },
  );
  const bound = bind(compile(email, SAMPLE_OPTIONS), {
    audience: { today: "2026-03-30", segments: new Map() },
  });
  const get = (language?: string) =>
    personalise(bound, readerOf(speaker(language), "en", previewAddresses("")));

  test("their words, texts, pictures and addresses; else what the design says", () => {
    const { subject, preheader, html, text } = get("de-AT");
    expect(subject).toBe("Was jetzt gesät wird");
    expect(preheader).toBe("This week");
    expect(html).toContain('<html lang="de" dir="ltr"');
    for (const said of [
      "Erbsen",
      "Eine Erbse für dich",
      "/pictures/b.png",
      "https://shop.example/de",
      "Sorte",
      "Abmelden",
      "Only in English",
    ])
      expect(html).toContain(said);
    for (const said of [">Peas<", "/pictures/a.png", "A pea", ">Unsubscribe<"])
      expect(html).not.toContain(said);
    expect(html).toContain('height="520"');
    expect(text).toContain("Erbsen");
    expect(text).toContain("Only in English");
    expect(text).not.toContain("Plain English");
  });

  test("everybody else gets the design as it is", () => {
    const { subject, html } = get("nl");
    expect(subject).toBe("What to sow");
    expect(html).toContain('<html lang="en"');
    expect(html).toContain(">Peas<");
    expect(html).not.toContain("Erbsen");
    const { translations: _, ...own } = email;
    const alone = { ...own, sections: translated(email, "none").sections };
    expect(
      personalise(
        bind(compile(alone, SAMPLE_OPTIONS), {
          audience: { today: "2026-03-30", segments: new Map() },
        }),
        readerOf(speaker("nl"), "en", previewAddresses("")),
      ).html,
    ).toBe(html);
  });

  test("a language from right to left turns its own version only", () => {
    const turned = {
      ...email,
      translations: {
        ...email.translations,
        ar: { subject: { value: words("ماذا نزرع الآن"), of: words("What to sow") } },
      },
    };
    const both = bind(compile(turned, SAMPLE_OPTIONS), {
      audience: { today: "2026-03-30", segments: new Map() },
    });
    const read = (language: string) =>
      personalise(both, readerOf(speaker(language), "en", previewAddresses(""))).html;
    expect(read("ar")).toContain('<html lang="ar" dir="rtl"');
    expect(read("de")).toContain('<html lang="de" dir="ltr"');
  });

  test("a translation that was emptied is missing, and readers get what the design says", () => {
    const emptied = block({
      ...createBlock("image", "i"),
      ...picture,
      href: "https://shop.example/en",
      translations: {
        de: { alt: { value: " ", of: "A pea" }, href: { value: "", of: "https://shop.example/en" } },
      },
    });
    expect(translatedBlock(emptied, "de")).toMatchObject({ alt: "A pea", href: "https://shop.example/en" });
    const states = translationState(emailWith([emptied], { translations: { de: {} } }), "de");
    expect(states.filter(({ block: id }) => id === "i").map(({ path, state }) => [path, state])).toEqual([
      ["src", "same"],
      ["alt", "missing"],
      ["href", "same"],
    ]);
  });

  test("what cannot stand in a place is left out", () => {
    const odd = block({
      ...createBlock("heading", "h"),
      content: words("Peas"),
      translations: {
        de: { content: { value: "no line", of: words("Peas") }, "no.such": { value: "x", of: "y" } },
      },
    });
    expect(translatedBlock(odd, "de").content).toEqual(words("Peas"));
  });
});

describe("how far it is", () => {
  const heading = (content: Inline[], there?: { value: Inline[]; of: Inline[] }): Block =>
    block({
      ...createBlock("heading", "h"),
      content,
      ...(there && { translations: { de: { content: there } } }),
    });
  const state = (it: Block) =>
    translationState(emailWith([it], { translations: { de: {} } }), "de").find(({ block }) => block === "h")
      ?.state;

  test("missing, done, outdated", () => {
    expect(state(heading(words("Peas")))).toBe("missing");
    expect(state(heading(words("Peas"), { value: words("Erbsen"), of: words("Peas") }))).toBe("done");
    expect(state(heading(words("Beans"), { value: words("Erbsen"), of: words("Peas") }))).toBe("outdated");
    expect(state(heading(words("Peas"), { value: [], of: words("Peas") }))).toBe("missing");
  });

  test("what says no words of its own need not be said otherwise", () => {
    expect(state(heading(words("50 %")))).toBe("same");
    expect(
      state(heading([{ type: "mergeTag", attrs: { field: "first_name", fallback: "", format: "asIs" } }])),
    ).toBe("same");
  });

  test("addresses and pictures are asked for only once they were given", () => {
    const email = emailWith(
      [block({ ...createBlock("image", "i"), src: "/pictures/a.png", alt: "", href: "https://a.example" })],
      { translations: { de: {} } },
    );
    expect(progressOf(translationState(email, "de").filter(({ block: id }) => id === "i"))).toEqual({
      missing: 0,
      outdated: 0,
      done: 0,
      same: 3,
    });
  });

  test("every unit of every block has a key of its own", () => {
    const email = emailWith([
      block(createBlock("table", "t")),
      block(createBlock("share", "sh")),
      block(createBlock("imageSet", "is")),
      block(createBlock("coupon", "co")),
    ]);
    const keys = unitsOf(email).map((unit) => `${unit.block} ${unitKey(unit)}`);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys.length).toBeGreaterThan(20);
    expect(blocksOf(email).every(({ id }) => keys.some((key) => key.startsWith(`${id} `)))).toBe(true);
  });
});
