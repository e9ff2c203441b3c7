import fc from "fast-check";
import { Parser } from "htmlparser2";
import { describe, expect, test } from "vitest";
import { createBlock } from "../blocks";
import { type Block, type Email, type Lookup, MergeTagSchema, SCHEMA_VERSION } from "../email";
import { MessageFactory } from "../mime";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact } from "../render/sample";
import { bind, editions, personalise, previewAddresses, readerOf, readerValue } from ".";

const SITE: Lookup = {
  key: "site",
  name: "Branch page",
  kind: "link",
  cases: [
    {
      name: "Marl Bay",
      when: { kind: "field", field: "branch", op: "is", value: "marl_bay" },
      value: { address: "https://marl.example/?who={$first_name else=|you|}" },
    },
  ],
  otherwise: { address: "https://all.example/" },
};
const ADVISER: Lookup = {
  key: "adviser",
  name: "Adviser",
  kind: "person",
  cases: [
    {
      name: "cool",
      when: { kind: "field", field: "zone", op: "is", value: "cool" },
      value: {
        name: "Ottilie Marsh",
        address: "ottilie@tansyrow.example",
        portrait: "/pictures/ottilie.png",
      },
    },
    {
      name: "odd",
      when: { kind: "field", field: "zone", op: "is", value: "odd" },
      value: { name: "", address: "not an address", portrait: "javascript:alert(1)" },
    },
  ],
  otherwise: { name: "The nursery", address: "letters@tansyrow.example", portrait: "" },
};
const OPTIONS = {
  ...SAMPLE_OPTIONS,
  campaign: { name: "Spring letter", series: "Monthly letter" },
  lookups: [SITE, ADVISER],
  codes: [{ key: "spring", name: "Spring codes", example: "EXAMPLE-1", ends: "2026-06-30" }],
};

function emailWith(blocks: Block[], envelope: Partial<Email["envelope"]> = {}): Email {
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "plain",
    envelope: {
      subject: [],
      preheader: [],
      sender: { name: [], address: "letters@tansyrow.example" },
      ...envelope,
    },
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  };
}

const world = { content: new Map(), audience: { today: "2026-03-30", segments: new Map() } };
const boundOf = (email: Email) => bind(compile(email, OPTIONS), world);
const get = (email: Email, fields: Record<string, unknown>, codes?: Record<string, string>) =>
  personalise(
    boundOf(email),
    readerOf(sampleContact(1, fields), "en", previewAddresses("https://s.example"), codes),
  );

/** What the elements of some HTML say in an attribute, as a browser reads it. */
function attributes(html: string, element: string, name: string): string[] {
  const found: string[] = [];
  new Parser({
    onopentag: (tag, attribs) =>
      void (tag === element && attribs[name] !== undefined && found.push(attribs[name])),
  }).end(html);
  return found;
}

const button = (href: string): Block => ({ ...createBlock("button", "b"), href });
const picture = (more: object): Block => ({
  ...createBlock("image", "i"),
  src: "https://p.example/a.png",
  ...more,
});
const code = (html: string): Block => ({ ...createBlock("code", "h"), html });
const words = (field: string, more: object = {}) => [
  { type: "mergeTag" as const, attrs: MergeTagSchema.parse({ field, ...more }) },
];

describe("tags in places", () => {
  test("a tag in an address is a piece of it, whatever it holds", () => {
    const email = emailWith([button("https://shop.example/?name={$first_name else=|you|}&b=1")]);
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (name) => {
        const { html, text } = get(email, { first_name: name });
        const [href] = attributes(html, "a", "href");
        const asked = new URL(href).searchParams;
        expect([...asked.keys()]).toEqual(["name", "b"]);
        expect(text).toContain(href);
        const said = asked.get("name");
        if (/^[\x20-\x7e]+$/.test(name) && name.trim() !== "") expect(said).toBe(name.trim());
        if (name === "") expect(said).toBe("you");
      }),
    );
  });

  test("a tag at the beginning of an address is the whole of it, and leads nowhere when it is none", () => {
    const email = emailWith([button("{$page}")]);
    const leads = (page: unknown) => attributes(get(email, { page }).html, "a", "href")[0];
    expect(leads("https://a.example/?x=1&y=2")).toBe("https://a.example/?x=1&y=2");
    expect(leads("javascript:alert(1)")).toBeUndefined();
    expect(leads(undefined)).toBeUndefined();
  });

  test("a link of a lookup differs from reader to reader, and may hold tags; parameters are put behind", () => {
    const email = {
      ...emailWith([button("{$lookup.site}")]),
      links: { parameters: [{ name: "from", value: "letter" }], untracked: [] },
    };
    const leads = (fields: object) => attributes(get(email, { ...fields }).html, "a", "href")[0];
    expect(leads({ branch: "marl_bay", first_name: "Ann & Bo" })).toBe(
      "https://marl.example/?who=Ann%20%26%20Bo",
    );
    expect(leads({ branch: "marl_bay" })).toBe("https://marl.example/?who=you");
    expect(leads({})).toBe("https://all.example/");
    expect(get(email, {}).text).toContain("https://all.example/");
  });

  test("in an alternative text a value stays words", () => {
    const email = emailWith([picture({ alt: "Beds of {$first_name else=|yours|}", decorative: false })]);
    const alt = (first_name?: string) => attributes(get(email, { first_name }).html, "img", "alt")[0];
    expect(alt('"><script>')).toBe('Beds of "><script>');
    expect(alt()).toBe("Beds of yours");
    expect(alt("שלום")).toBe("Beds of \u2068שלום\u2069");
    expect(get(email, { first_name: "Ines" }).text).toContain("[Beds of Ines]");
  });

  test("a picture of a lookup is that of the case, and none where it is no address", () => {
    const email = emailWith([picture({ src: "{$lookup.adviser.portrait}", alt: "{$lookup.adviser}" })]);
    const src = (zone?: string) => attributes(get(email, { zone }).html, "img", "src")[0];
    expect(src("cool")).toBe("https://septima.example/pictures/ottilie.png");
    expect(src("odd")).toBeUndefined();
    expect(attributes(get(email, { zone: "cool" }).html, "img", "alt")).toEqual(["Ottilie Marsh"]);
  });

  test("in HTML of one's own tags stand in words and attributes, each made safe", () => {
    const email = emailWith([
      code(
        '<p title="For {$first_name else=|you|}" style="color:{$first_name}">Dear {$first_name else=|a &lt;b&gt; friend|}, <a href="https://a.example/{$first_name}">look</a></p><img src="{$lookup.adviser.portrait}" alt="x">',
      ),
    ]);
    const { html, text } = get(email, { first_name: '<i>"Q"</i>', zone: "cool" });
    expect(html).toContain("Dear &lt;i&gt;&quot;Q&quot;&lt;/i&gt;, ");
    expect(attributes(html, "p", "title")).toContain('For <i>"Q"</i>');
    expect(attributes(html, "p", "style")).not.toContainEqual(expect.stringContaining("Q"));
    expect(attributes(html, "a", "href")).toEqual(["https://a.example/%3Ci%3E%22Q%22%3C%2Fi%3E"]);
    expect(attributes(html, "img", "src")).toEqual(["https://septima.example/pictures/ottilie.png"]);
    expect(text).toContain('Dear <i>"Q"</i>,');
    expect(text).toContain("(https://a.example/%3Ci%3E%22Q%22%3C%2Fi%3E)");
    expect(get(email, {}).html).toContain("Dear a &lt;b&gt; friend,");
  });

  test("sender, address for answers and recipient come from lookups and tags", () => {
    const email = emailWith([], {
      subject: words("campaign.name"),
      preheader: words("sender.address"),
      to: words("first_name", { format: "capital" }),
      sender: {
        name: words("lookup.adviser", { fallback: "Your adviser" }),
        address: "{$lookup.adviser.address}",
        replyTo: "{$lookup.adviser.address}",
      },
    });
    const bound = boundOf(email);
    const factory = new MessageFactory(
      bound,
      { from: "letters@tansyrow.example", listId: { name: "Tansy Row", domain: "letters.tansyrow.example" } },
      "b",
    );
    const head = (fields: object) => {
      const reader = readerOf(sampleContact(1, { ...fields }), "en", previewAddresses("https://s.example"));
      const bytes = factory.build(reader, {
        to: { name: "Whole Name", address: "r@mail.example" },
        messageId: "1@x.example",
        date: 0,
      });
      return new TextDecoder().decode(bytes).split("\r\n\r\n")[0];
    };
    const cool = head({ zone: "cool", first_name: "ines" });
    expect(cool).toContain("From: Ottilie Marsh <ottilie@tansyrow.example>");
    expect(cool).toContain("Reply-To: ottilie@tansyrow.example");
    expect(cool).toContain("To: Ines <r@mail.example>");
    expect(cool).toContain("Subject: Spring letter");
    const odd = head({ zone: "odd" });
    expect(odd).toContain("From: Your adviser <letters@tansyrow.example>");
    expect(odd).not.toContain("Reply-To");
    expect(odd).toContain("To: Whole Name <r@mail.example>");
  });

  test("the day of sending, money and dates are written in the language around them, as the reader's country does", () => {
    const email = emailWith([], {
      subject: [
        ...words("date.today", { format: "weekday", days: 2 }),
        { type: "text", text: " · " },
        ...words("spent", { format: "money", currency: "EUR" }),
        { type: "text", text: " · " },
        ...words("birthday", { format: "dayMonth", days: -7 }),
      ],
    });
    const fields = { spent: 1234.5, birthday: "2000-03-01" };
    expect(get(email, fields).subject).toBe("Wednesday 1 April · €1,234.50 · 23 February");
    const english = get(email, { ...fields, language: "de" }).subject;
    expect(english).toBe("Wednesday 1 April · €1,234.50 · 23 February");
    expect(get(email, { ...fields, language: "en-US" }).subject).toBe(
      "Wednesday, April 1 · €1,234.50 · February 23",
    );
    const german = "Mittwoch, 1. April · 1.234,50\u00a0€ · 23. Februar";
    expect(get({ ...email, language: "de" }, { ...fields, language: "fr" }).subject).toBe(german);
    const austrian = get({ ...email, language: "de" }, { ...fields, language: "de-AT" }).subject;
    expect(austrian.normalize("NFKC")).toBe("Mittwoch, 1. April · € 1.234,50 · 23. Februar");
    expect(editions(boundOf(email), [sampleContact(1, fields)])[0].fallbacks).toEqual([]);
  });

  test("looks show the example of a code, messages the reader's own or what is said without one", () => {
    const email = emailWith([button("https://shop.example/?code={$code.spring}")], {
      subject: words("code.spring", { fallback: "ask us" }),
    });
    const leads = (codes?: Record<string, string>) => attributes(get(email, {}, codes).html, "a", "href")[0];
    expect(get(email, {}).subject).toBe("EXAMPLE-1");
    expect(leads()).toBe("https://shop.example/?code=EXAMPLE-1");
    expect(get(email, {}, { spring: "A&B" }).subject).toBe("A&B");
    expect(leads({ spring: "A&B" })).toBe("https://shop.example/?code=A%26B");
    expect(get(email, {}, {}).subject).toBe("ask us");
  });

  test("editions know who is shown a code", () => {
    const email = emailWith([
      {
        ...button("https://shop.example/?code={$code.spring}"),
        show: { kind: "field", field: "zone", op: "is", value: "cool" },
      },
    ]);
    const found = editions(boundOf(email), [
      sampleContact(1, { zone: "cool" }),
      sampleContact(2, { zone: "mild" }),
      sampleContact(3, {}),
    ]);
    expect(found.map(({ count, codes }) => ({ count, codes }))).toEqual([
      { count: 2, codes: [] },
      { count: 1, codes: ["spring"] },
    ]);
  });

  test("a coupon shows the reader's code, leads to the shop with it, and says until when", () => {
    const coupon = {
      ...createBlock("coupon", "k"),
      batch: "spring",
      href: "https://shop.example/seeds?from=letter#top",
      otherwise: "ask us",
    };
    const email = emailWith([coupon]);
    const mine = get(email, {}, { spring: "LEAF-7" });
    expect(mine.html).toContain(">LEAF-7</p>");
    expect(attributes(mine.html, "a", "href")[0]).toBe(
      "https://shop.example/seeds?from=letter&code=LEAF-7#top",
    );
    expect(mine.html).toContain("Good until 30 June 2026");
    expect(mine.text).toContain("LEAF-7\n");
    expect(mine.text).toContain("Good until 30 June 2026");
    expect(get(email, {}, {}).html).toContain(">ask us</p>");
    expect(get(email, {}).html).toContain(">EXAMPLE-1</p>");
    expect(get(emailWith([{ ...coupon, until: "2026-05-01" }]), {}).html).toContain("Good until 1 May 2026");
  });

  test("for the till a coupon shows the reader's code as a picture that says it, and none to who has no code", () => {
    const shown = (figure: "qr" | "bars", codes?: Record<string, string>) => {
      const { html } = get(
        emailWith([{ ...createBlock("coupon", "k"), batch: "spring", figure, otherwise: "ask us" }]),
        {},
        codes,
      );
      const at = attributes(html, "img", "src").findIndex((src) => src.includes("/till/"));
      return at < 0 ? null : [attributes(html, "img", "src")[at], attributes(html, "img", "alt")[at]];
    };
    expect(shown("qr", { spring: "LEAF/7 é" })).toEqual([
      `https://septima.example/till/qr/LEAF%2F7%20%C3%A9.png`,
      "LEAF/7 é",
    ]);
    expect(shown("bars", { spring: "LEAF-7" })).toEqual([
      `https://septima.example/till/bars/LEAF-7.png`,
      "LEAF-7",
    ]);
    expect(shown("qr", {})).toBeNull();
    expect(shown("qr")?.[1]).toBe("EXAMPLE-1");
  });

  test("signs that are marks elsewhere do nothing in words of a design", () => {
    const hostile = "{$first_name} \u00150\u0015 \u00151\u0015 \u0015";
    const email = emailWith([
      picture({ alt: hostile }),
      button(`https://a.example/${hostile}`),
      code(hostile),
    ]);
    const { html, text } = get(email, { first_name: "Ines" });
    expect(attributes(html, "img", "alt")[0]).toContain("Ines");
    expect(text).toContain("Ines");
  });
});

test.each([
  ["fr", "1er août 2026", "samedi 1er août", "oui"],
  ["fr-CA", "1er août 2026", "samedi 1er août", "oui"],
  ["de", "1. August 2026", "Samstag, 1. August", "ja"],
  ["en-GB", "1 August 2026", "Saturday 1 August", "yes"],
  ["pl", "1 sierpnia 2026", "sobota, 1 sierpnia", "tak"],
])("the first of a month, and yes, in %s", (language, long, weekday, yes) => {
  const contact = {
    id: 1,
    email: "a@mail.example",
    fields: { day: "2026-08-01", member: true, language },
    lists: [],
  };
  const reader = readerOf(contact, language, previewAddresses("https://s.example"));
  expect(readerValue("day", { format: "longDate" }, reader)).toBe(long);
  expect(readerValue("day", { format: "weekday" }, reader)).toBe(weekday);
  expect(
    readerValue(
      "day",
      { format: "longDate" },
      { ...reader, contact: { ...contact, fields: { ...contact.fields, day: "2026-08-21" } } },
    ),
  ).toContain("21");
  expect(readerValue("member", { format: "asIs" }, reader)).toBe(yes);
});
