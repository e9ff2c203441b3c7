/** What those get who listen to a message, and machines that read it. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { predicate, type Rule } from "../audience";
import { createBlock } from "../blocks";
import { type Block, type Email, paragraphOf, richText } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from ".";
import { newestOf, SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const audience = { today: "2026-11-23", segments: new Map() };
const CODES = [{ key: "k", name: "K", example: 'FROST-</script>"1', ends: "2026-12-24" }];

let ids = 0;
const block = (type: Parameters<typeof createBlock>[0], more: object = {}): Block =>
  ({ ...createBlock(type, `b${ids++}`), ...more }) as Block;
const words = (text: string) => [{ type: "text" as const, text }];
const emailOf = (blocks: Block[], more: Partial<Email> = {}): Email => ({
  ...sampleEmail(1),
  ...more,
  sections: [
    { id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] },
    ...sampleEmail(1).sections.slice(-1),
  ],
});
function read(email: Email, fields: Record<string, unknown> = {}) {
  const bound = bind(compile(email, { ...SAMPLE_OPTIONS, codes: CODES }), {
    ...sampleWorld(audience.today),
    audience,
  });
  const language = typeof fields.language === "string" ? fields.language : email.language;
  return personalise(
    bound,
    readerOf(sampleContact(1, fields), language, previewAddresses("https://s.example")),
  );
}
const annotations = (html: string): Record<string, unknown>[] =>
  [...html.matchAll(/<script type="application\/ld\+json">(.*?)<\/script>/gs)].map(([, json]) =>
    JSON.parse(json),
  );

describe("headings", () => {
  const rule = (value: string): Rule => ({ kind: "field", field: "zone", op: "is", value });
  const RULES: (Rule | undefined)[] = [
    undefined,
    rule("cool"),
    rule("warm"),
    { kind: "none", of: [rule("cool")] },
  ];
  const made = fc.array(fc.record({ level: fc.constantFrom(1, 2, 3), show: fc.constantFrom(...RULES) }), {
    maxLength: 7,
  });

  test("of whatever a reader gets, the first is the only one of the first level, and none is skipped", () => {
    fc.assert(
      fc.property(made, (headings) => {
        const email = emailOf(
          headings.map(({ level, show }) =>
            block("heading", { level, content: words("x"), ...(show && { show }) }),
          ),
        );
        for (const zone of ["cool", "warm", "mild"]) {
          const contact = sampleContact(1, { zone });
          const got = headings.filter(({ show }) => !show || predicate(show, audience)(contact));
          const levels = [...read(email, { zone }).html.matchAll(/<h(\d)/g)].map(([, level]) =>
            Number(level),
          );
          expect(levels).toHaveLength(got.length);
          expect(levels.filter((level) => level === 1)).toHaveLength(got.length > 0 ? 1 : 0);
          for (const [at, level] of levels.entries())
            expect(level).toBeLessThanOrEqual(at === 0 ? 1 : levels[at - 1] + 1);
          // Alone, without rules, they would have the same levels.
          const alone = emailOf(got.map(({ level }) => block("heading", { level, content: words("x") })));
          expect(levels).toEqual([...read(alone).html.matchAll(/<h(\d)/g)].map(([, level]) => Number(level)));
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("the language of parts", () => {
  test("words that were not translated say which language they are in, and which way they run", () => {
    const email = emailOf(
      [
        block("text", {
          content: richText("In English"),
          translations: { he: { content: { value: richText("בעברית"), of: richText("In English") } } },
        }),
        block("heading", { content: words("Only in English") }),
        block("button", { content: words("Read"), href: "https://a.example/" }),
      ],
      { translations: { he: {} } },
    );
    const { html } = read(email, { language: "he" });
    expect(html).toMatch(/^<!doctype html><html lang="he" dir="rtl"/);
    expect(html).toMatch(/<h1 lang="en" dir="ltr"[^>]*>Only in English/);
    expect(html).toMatch(/<a lang="en" dir="ltr"[^>]*>Read/);
    expect(html).not.toMatch(/lang="en"[^>]*>(<[^>]*>)?בעברית/);
    expect(read(email).html.match(/lang="en"/g)).toHaveLength(2);
  });

  test("a paragraph or heading in another script runs its own way", () => {
    const email = emailOf([
      block("heading", { content: words("שלום") }),
      block("text", { content: { type: "doc", content: [paragraphOf("Hello"), paragraphOf("שלום לכם")] } }),
    ]);
    const { html } = read(email);
    expect(html).toMatch(/<h1 dir="rtl"[^>]*text-align:right;/);
    expect(html).toMatch(/<p dir="rtl" style="[^"]*text-align:right;">שלום לכם/);
    expect(html).toMatch(/<p style="[^"]*">Hello/);
  });

  test("what blocks say of their own is in the message's language", () => {
    const blocks = [block("survey"), block("video", { src: "/pictures/x.png", href: "https://f.example/" })];
    const { html } = read(emailOf(blocks, { language: "de-AT" }));
    expect(html).toContain('aria-label="Antwort 3 von 5"');
    expect(html).toContain('alt="Den Film abspielen"');
    expect(read(emailOf(blocks, { language: "fi" })).html).toContain('aria-label="Answer 3 of 5"');
  });
});

test("“Read on” is told apart aloud: what it leads to is said, clipped and not undisplayed", () => {
  const { html } = read(emailOf([newestOf("a", { count: 2 })]));
  const links = [...html.matchAll(/>Read on<span style="([^"]*)">([^<]*)<\/span><\/a>/g)];
  expect(links.map(([, , said]) => said)).toEqual([
    " Article &lt;1&gt; &amp; more",
    " Article &lt;2&gt; &amp; more",
  ]);
  for (const [, style] of links) {
    expect(style).toContain("overflow:hidden");
    expect(style).not.toContain("display:none");
  }
});

test("a table says what its rows and columns are, and what it is about", () => {
  const table = block("table", { rowHeads: true, caption: "When <we> open" });
  const { html, text } = read(emailOf([table]));
  expect(html).toMatch(/<caption[^>]*>When &lt;we&gt; open<\/caption><tr><th scope="col"/);
  expect(html.match(/<th scope="row"/g)).toHaveLength(2);
  expect(text).toContain("When <we> open\n");
});

test("a linked picture with words on it holds a link that is whole, and says what it shows", () => {
  const { html, text } = read(
    emailOf([
      block("overlaid", {
        src: "/pictures/x.png",
        natural: { width: 800, height: 400 },
        href: "https://a.example/",
        alt: "Rows of leeks",
        focus: { x: 0.2, y: 0.75 },
      }),
    ]),
  );
  const link = /<a href="https:\/\/a\.example\/"[^>]*>(.*?)<\/a>/s.exec(html)?.[1] ?? "";
  expect(link).toContain("Rows of leeks");
  expect(link).not.toMatch(/<span[^>]*><table|<a /);
  expect(html).toContain("background-position:20% 75%");
  expect(text).toContain("[Rows of leeks] (https://a.example/)");
  // On phones it keeps its proportions, unless a height was asked for.
  expect(html).toMatch(/td\.tall-[\w-]+\{height:calc\(50vw - \d+px\)!important\}/);
  const cut = block("overlaid", {
    src: "/pictures/x.png",
    natural: { width: 800, height: 400 },
    height: 300,
  });
  expect(read(emailOf([cut])).html).not.toContain("tall-");
});

test("the text part keeps the link of a footer that is for phones only, and nothing else that is", () => {
  const email = emailOf([block("text", { content: richText("Only on phones"), hideOn: "desktop" })]);
  email.sections[1].hideOn = "desktop";
  const { text } = read(email);
  expect(text).toContain("Unsubscribe: https://s.example/unsubscribe/preview");
  expect(text).not.toContain("Only on phones");
});

test("a quote's closing mark stands at its end in text", () => {
  const quote = block("quote", { content: richText("It rained."), source: words("Ines") });
  expect(read(emailOf([quote])).text).toContain("“It rained.” - Ines\n");
});

describe("what machines read", () => {
  const sale = () =>
    block("appointment", { title: "The </script> sale", start: "2026-12-03T18:00", place: "Alderwick" });

  test("names the sender, an event and an offer with its code and last day", () => {
    const coupon = block("coupon", { batch: "k", words: richText("Ten percent off.") });
    expect(annotations(read(emailOf([sale(), coupon])).html)).toEqual([
      expect.objectContaining({ "@type": "Organization", name: "Tansy Row" }),
      expect.objectContaining({
        "@type": "Event",
        name: "The </script> sale",
        startDate: "2026-12-03T18:00:00.000Z",
        location: expect.objectContaining({ name: "Alderwick" }),
      }),
      expect.objectContaining({
        "@type": "DiscountOffer",
        description: "Ten percent off.",
        discountCode: 'FROST-</script>"1',
        availabilityEnds: "2026-12-24",
      }),
    ]);
  });

  test("says nothing of what is switched off, or not for this reader", () => {
    const types = (email: Email, fields = {}) =>
      annotations(read(email, fields).html).map((it) => it["@type"]);
    const show: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
    expect(types(emailOf([{ ...sale(), off: ["date"] }]))).toEqual(["Organization"]);
    expect(types(emailOf([{ ...sale(), show }]), { zone: "warm" })).toEqual(["Organization"]);
    expect(types(emailOf([{ ...sale(), show }]), { zone: "cool" })).toEqual(["Organization", "Event"]);
    const noPlace = annotations(read(emailOf([{ ...sale(), off: ["place"] }])).html)[1];
    expect(noPlace).not.toHaveProperty("location");
  });
});
