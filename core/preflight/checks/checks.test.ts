/** Each check: what trips it is found at its place, its mend makes it go, and what must not trip it does not. */
import { describe, expect, test } from "vitest";
import type { Contact } from "../../audience";
import { type Block, type Email, PLACEHOLDER_BRAND, type Theme } from "../../email";
import { itemOf } from "../../items";
import { SAMPLE_BRAND, SAMPLE_OPTIONS, sampleContact } from "../../render/sample";
import { type Circumstances, recipients } from "../finding";
import {
  around,
  block,
  foundBy,
  letter,
  linkTo,
  mended,
  nameTag,
  plain,
  READERS,
  text,
  words,
} from "../test-letter";
import { CHECKS } from ".";

interface Case {
  email: Email;
  more?: Partial<Circumstances>;
  reader?: Contact;
}
interface Trip extends Case {
  /** The block it is found at; null where it is the email as a whole. */
  at: string | null;
  weight: "stops" | "look" | "could";
  says: RegExp;
  /** Whether its mend makes it go. */
  mends?: boolean;
}

const one = (...blocks: Block[]): Email => letter(blocks);
const said = (...content: Parameters<typeof text> extends [string, ...infer Rest] ? Rest : never) =>
  one(text("t", ...content));
const envelope = (more: Partial<Email["envelope"]>) => {
  const email = plain();
  return { ...email, envelope: { ...email.envelope, ...more } };
};
const only = (email: Email, show: unknown): Email => ({
  ...email,
  sections: email.sections.map((section, at) =>
    at === 0 ? { ...section, show: show as (typeof section)["show"] } : section,
  ),
});
const cool = { kind: "field", field: "zone", op: "is", value: "cool" };
const picture = (more: object) => block("image", "p", { src: "/pictures/a.png", ...more } as never);
const table = (more: object) =>
  block("table", "t", {
    columns: [
      { id: "c1", width: 50, align: "left" },
      { id: "c2", width: 50, align: "left" },
    ],
    rows: ["r1", "r2", "r3"].map((id) => ({ id, cells: { c1: words("Peas"), c2: words("March") } })),
    ...more,
  } as never);
const either = (first: string, otherwise: string) => ({
  type: "either" as const,
  attrs: { cases: [{ when: cool as never, words: words(first) }], otherwise: words(otherwise) },
});
const weights = (bytes: number, total = bytes) => ({
  weights: {
    pictures: [{ name: "Carrots", src: "/pictures/a.png", bytes }],
    total,
    light: { all: 1_000_000, each: 200_000 },
  },
});
const codes = (more: object) => ({
  codes: [{ key: "spring", name: "Spring", wanted: 2, free: 9, low: 3, ends: null, ...more }],
});
const code = (fallback: string) => ({
  type: "mergeTag" as const,
  attrs: { field: "code.spring", fallback, format: "asIs" as const },
});

const linked = said("See ", linkTo("https://a.example/sow", "what to sow now"));
/** A theme whose links and words have these colours, in light and in the dark. */
const themed = (links: Theme["links"], text: string, link: string, darkText = text, darkLink = link) => {
  const { theme } = SAMPLE_OPTIONS;
  return {
    theme: {
      ...theme,
      links,
      light: { ...theme.light, text, link },
      dark: { ...theme.dark, text: darkText, link: darkLink },
    },
  };
};
const kale = (price: number, sale?: number) =>
  itemOf({ id: "kale", title: "Kale", price, currency: "EUR", ...(sale !== undefined && { sale }) });
const shop = (more: object, placed: object = {}) =>
  one(
    block("items", "i", {
      follow: false,
      off: [],
      items: [{ id: "k", source: "shop", item: kale(3), ...placed }],
      ...more,
    } as never),
  );
const catalogue = (price: number, sale?: number) =>
  ({ catalogue: [{ source: "shop", item: kale(price, sale) }] }) as never;

/** A dictionary of a few words, by which every other word is wrong. */
const FEW_WORDS = new Set(
  "sow the tomatoes indoors and wait for it don't beans hello good row café".split(" "),
);
const spelling = (language: string) =>
  language === "en"
    ? {
        knows: (word: string) => FEW_WORDS.has(word.toLowerCase()),
        suggests: (word: string) => (/^tomatos$/i.test(word) ? ["tomatoes"] : word === "teh" ? ["the"] : []),
      }
    : null;
/** A letter whose envelope and footer are in that dictionary. */
const spelt = (...blocks: Block[]) => {
  const email = letter(blocks, {
    subject: words("Hello"),
    preheader: words("Sow beans and wait"),
    sender: { name: words("Row"), address: "letters@tansyrow.example" },
  });
  return { ...email, sections: email.sections.slice(0, 1) };
};

/** Every check by its name: what trips it, and what does not. */
const CASES: Record<string, { trips: Trip[]; passes?: Case[] }> = {
  spelling: {
    trips: [
      {
        email: spelt(text("t", "Sow and wait. Tomatos wait.")),
        more: { spelling },
        at: "t",
        weight: "look",
        says: /says “Tomatos”/,
        mends: true,
      },
      {
        email: spelt(text("t", "Sow teh tomatos indoors and wait.")),
        more: { spelling },
        at: "t",
        weight: "look",
        says: /“teh” and “tomatos”, which no dictionary here knows\. Perhaps “the” and “tomatoes”/,
        mends: true,
      },
      {
        email: {
          ...spelt(text("t", "Sow.")),
          envelope: { ...spelt().envelope, subject: words("Sow tomatos") },
        },
        more: { spelling },
        at: null,
        weight: "look",
        says: /^The subject says “tomatos”/,
      },
      {
        email: spelt(text("t", "Hello ", nameTag("freind"), ", sow qqa qqb qqc qqd.")),
        more: { spelling },
        at: "t",
        weight: "look",
        says: /“qqa”, “qqb” and “qqc” and 1 more, .* Write it otherwise/,
      },
      {
        email: spelt(text("t", either("Sow tomatos", "Wait"))),
        more: { spelling },
        at: "t",
        weight: "look",
        says: /“tomatos”/,
        mends: true,
      },
    ],
    passes: [
      // Names, initials, numbers, addresses, and whatever is not the same for all.
      {
        email: spelt(
          text(
            "t",
            "Sow the Brandywine and wait for it, don’t sow 5x tomatoes@row.example or www.tomatos.example. HTML and iOS and GmbH. ",
            nameTag("Freind"),
            "s wait.",
          ),
        ),
        more: {
          spelling: (one) =>
            spelling(one) && {
              ...spelling(one)!,
              knows: (word) => word === "or" || FEW_WORDS.has(word.toLowerCase()),
            },
        },
      },
      // In the middle of a sentence a name may look like a word spelt wrong.
      { email: spelt(text("t", "Sow the Tomatos and wait.")), more: { spelling } },
      // Names where a sentence begins, alone or several.
      { email: spelt(text("t", "Qqalder. Qqb wait."), text("n", "Tomatos Teh")), more: { spelling } },
      // A language without a dictionary, and none at all.
      { email: { ...spelt(text("t", "Tomatos")), language: "de" }, more: { spelling } },
      { email: spelt(text("t", "Sow tomatos")) },
    ],
  },
  envelope: {
    trips: [
      { email: envelope({ subject: [] }), at: null, weight: "stops", says: /no subject/ },
      {
        email: envelope({ sender: { name: words("A"), address: "" } }),
        at: null,
        weight: "stops",
        says: /no sender/,
      },
    ],
  },
  placeholders: {
    trips: [
      { email: plain(), more: { brand: PLACEHOLDER_BRAND }, at: null, weight: "stops", says: /still called/ },
    ],
  },
  reached: {
    trips: [
      {
        email: plain(),
        more: { reached: { origin: "http://127.0.0.1:4000", from: "anywhere" } },
        at: null,
        weight: "stops",
        says: /cannot reach/,
      },
    ],
    passes: [
      { email: plain(), more: { reached: { origin: "https://mail.tansyrow.example", from: "anywhere" } } },
      { email: plain(), more: { reached: { origin: "http://127.0.0.1:4000", from: "here" } } },
    ],
  },
  signed: {
    trips: [
      {
        email: plain(),
        more: { unsigned: ["tansyrow.example"] },
        at: null,
        weight: "stops",
        says: /Nothing signs/,
      },
      { email: plain(), more: { sealed: "It is locked." }, at: null, weight: "stops", says: /It is locked/ },
    ],
    passes: [{ email: plain(), more: { unsigned: [] } }],
  },
  senders: {
    trips: [
      {
        email: envelope({ sender: { name: words("A"), address: "not an address" } }),
        at: null,
        weight: "stops",
        says: /is no email address/,
      },
    ],
  },
  footer: {
    trips: [
      {
        email: { ...plain(), sections: plain().sections.slice(0, 1) },
        at: null,
        weight: "stops",
        says: /missing/,
      },
      {
        email: hiddenFooter(),
        at: "foot",
        weight: "stops",
        says: /is hidden on phones/,
      },
    ],
  },
  "way-out": {
    trips: [
      {
        email: { ...plain(), sections: plain().sections.slice(0, 1) },
        at: null,
        weight: "stops",
        says: /postal address is not to be seen/,
      },
    ],
    passes: [{ email: plain(), more: { brand: { ...SAMPLE_BRAND, address: "" } } }],
  },
  unready: {
    trips: [{ email: one(block("image", "p")), at: "p", weight: "stops", says: /no picture/ }],
  },
  nobody: {
    trips: [
      {
        email: plain(),
        more: { readers: { ...around().readers, count: 0 } },
        at: null,
        weight: "stops",
        says: /Nobody would get it/,
      },
    ],
  },
  typed: {
    trips: [
      {
        email: one(block("button", "b", { href: "https://a.example/?x={$nonsense" })),
        at: "b",
        weight: "stops",
        says: /cannot be read/,
      },
    ],
  },
  unfilled: {
    trips: [
      {
        email: envelope({ subject: words("Hello {$first_name}, hold your beans") }),
        at: null,
        weight: "stops",
        says: /The subject still shows a tag/,
      },
    ],
    passes: [{ email: envelope({ subject: [...words("Hello "), nameTag("you")] }) }],
  },
  gone: {
    trips: [{ email: said("Your code: ", code("")), at: "t", weight: "stops", says: /which is not there/ }],
  },
  "gone-targets": {
    trips: [
      {
        email: one(
          block("button", "b", {
            href: '{$item.link source="shop" id="7" else="https://shop.tansyrow.example/7"}',
          }),
        ),
        at: "b",
        weight: "look",
        says: /does not have any more/,
      },
    ],
  },
  "gone-data": {
    trips: [
      {
        email: said("Hello ", nameTag("you")),
        more: { there: { fields: new Set(), sources: new Set() } },
        at: "t",
        weight: "look",
        says: /asks for the field “first name”, which is not there/,
      },
    ],
    passes: [
      {
        email: said("Hello ", nameTag("you")),
        more: { there: { fields: new Set(["first_name"]), sources: new Set() } },
      },
    ],
  },
  programme: {
    trips: [
      {
        email: one(block("refer", "f", { programme: true } as never)),
        at: "f",
        weight: "stops",
        says: /the programme is off/,
      },
    ],
  },
  codes: {
    trips: [
      { email: said(code("")), more: codes({ free: 1 }), at: "t", weight: "stops", says: /1 is missing/ },
      {
        email: said(code("ask us")),
        more: codes({ free: 1 }),
        at: "t",
        weight: "look",
        says: /read “ask us”/,
      },
      {
        email: said(code("")),
        more: codes({ free: 4 }),
        at: "t",
        weight: "look",
        says: /2 codes left after/,
      },
    ],
    passes: [{ email: said(code("")), more: codes({}) }],
  },
  sources: {
    trips: [
      {
        email: one(block("picks", "l", { source: "shop" } as never)),
        more: {
          failing: [{ id: "shop", name: "Shop", why: "It answers 503.", age: null, stopsAfter: null }],
        },
        at: "l",
        weight: "look",
        says: /cannot be read/,
      },
    ],
  },
  "sample-words": {
    trips: [
      { email: one(block("heading", "h")), at: "h", weight: "look", says: /still says what it came with/ },
    ],
  },
  fallbacks: {
    trips: [
      {
        email: said("Hello ", nameTag(), "!"),
        at: "t",
        weight: "look",
        says: /which 1 reader lacks, and has no/,
      },
    ],
    passes: [{ email: said("Hello ", nameTag("you"), "!") }],
  },
  blanks: {
    trips: [
      {
        email: said("Hello ", nameTag(), ", hold your beans."),
        reader: READERS[1],
        at: "t",
        weight: "look",
        says: /Some read “Hello , hold your beans/,
      },
      {
        email: envelope({ subject: [nameTag(), ...words(", hold your beans")] }),
        reader: READERS[1],
        at: null,
        weight: "look",
        says: /The subject reads “, hold your beans”/,
      },
    ],
    passes: [
      { email: said("Hello ", nameTag(), ", hold your beans."), reader: READERS[0] },
      { email: said("Peas, beans ... and .5 kg of leeks (all of them).") },
    ],
  },
  bare: {
    trips: [
      {
        email: only(plain(), cool),
        reader: READERS[1],
        at: null,
        weight: "look",
        says: /nothing between header and footer/,
      },
    ],
    passes: [{ email: only(plain(), cool), reader: READERS[0] }],
  },
  lookups: {
    trips: [
      {
        email: said("Sow ", {
          type: "mergeTag",
          attrs: { field: "lookup.zones", fallback: "", format: "asIs" },
        }),
        more: {
          tags: {
            lookups: [
              {
                id: "z",
                key: "zones",
                name: "Zones",
                kind: "text",
                cases: [{ id: "1", name: "Cool", when: cool, value: { text: "indoors" } }],
                otherwise: {},
              },
            ],
          } as never,
        },
        at: "t",
        weight: "look",
        says: /writes nothing for readers who are in no case/,
      },
    ],
  },
  "either-ors": {
    trips: [
      {
        email: said({
          ...either("a", "b"),
          attrs: {
            cases: [{ when: { ...cool, value: "desert" } as never, words: words("Water it") }],
            otherwise: words("Wait"),
          },
        }),
        at: "t",
        weight: "look",
        says: /is for nobody/,
      },
    ],
    passes: [{ email: said(either("Water it", "Wait")) }],
  },
  "for-nobody": {
    trips: [
      {
        email: one(
          block("heading", "h", { content: words("Cacti"), show: { ...cool, value: "desert" } } as never),
        ),
        at: "h",
        weight: "look",
        says: /is for nobody/,
      },
    ],
    passes: [{ email: one(block("heading", "h", { content: words("Peas"), show: cool } as never)) }],
  },
  lists: {
    trips: [
      {
        email: one(block("picks", "l")),
        more: { lists: [{ block: "l", asked: 3, readers: 2, none: 1, fewer: 0 }] },
        at: "l",
        weight: "look",
        says: /1 gets none/,
      },
    ],
    passes: [
      {
        email: one(block("picks", "l")),
        more: { lists: [{ block: "l", asked: 3, readers: 2, none: 0, fewer: 1 }] },
      },
    ],
  },
  translations: {
    trips: [
      {
        email: { ...plain(), translations: { de: {} } },
        more: {
          readers: recipients([sampleContact(3, { language: "de" })], {
            today: "2026-11-25",
            segments: new Map(),
          }),
        },
        at: "h",
        weight: "look",
        says: /German: \d+ texts are missing/,
      },
    ],
  },
  unusual: {
    trips: [
      {
        email: plain(),
        more: { usual: { series: "Monthly", times: 4, readers: 4000 } },
        at: null,
        weight: "look",
        says: /It goes to 2 readers, and the last 4 of “Monthly” went to about 4,000/,
      },
    ],
    passes: [
      { email: plain(), more: { usual: { series: "Monthly", times: 4, readers: 3 } } },
      { email: plain(), more: { usual: { series: "Monthly", times: 2, readers: 4000 } } },
    ],
  },
  lately: {
    trips: [
      {
        email: plain(),
        more: { recent: { name: "Beans", days: 3, readers: 2, of: 2 } },
        at: null,
        weight: "could",
        says: /2 of 2 readers had “Beans” less than 3 days ago/,
      },
    ],
    passes: [{ email: plain(), more: { recent: { name: "Beans", days: 3, readers: 1, of: 900 } } }],
  },
  dates: {
    trips: [
      {
        email: said("Come on Tuesday, 2 December 2026, at ten."),
        at: "t",
        weight: "look",
        says: /“Tuesday, 2 December 2026” is a Wednesday/,
        mends: true,
      },
      { email: said("Sow until 3 March 2026."), at: "t", weight: "look", says: /“3 March 2026” is over/ },
      {
        email: said("On Mon 30th November we open, on Sunday, December 1 we rest."),
        at: "t",
        weight: "look",
        says: /“Sunday, December 1” is a Tuesday/,
        mends: true,
      },
      {
        email: { ...said("Am Montag, den 2. Dezember 2026"), language: "de" },
        at: "t",
        weight: "look",
        says: /ist?.*Mittwoch|a Mittwoch/,
        mends: true,
      },
    ],
    passes: [
      { email: said("Come on Wednesday, 2 December 2026. It may be May. Open since 1984; march 12 miles.") },
      { email: said("Every year on 12 June, and 31 February never.") },
      { email: said("A Thursday 30 October is far away."), more: { today: "2026-11-25" } },
    ],
  },
  "links-address": {
    trips: [
      {
        email: said("See ", linkTo("https://https://a.example/x", "the beans")),
        at: "t",
        weight: "look",
        says: /The link “the beans” leads to .*, which has its beginning twice/,
        mends: true,
      },
      {
        email: one(block("button", "b", { href: "www.a.example/beans" })),
        at: "b",
        weight: "look",
        says: /has no beginning/,
        mends: true,
      },
      {
        email: one(block("button", "b", { href: "https://a.example/two words" })),
        at: "b",
        weight: "look",
        says: /has a space/,
        mends: true,
      },
      {
        email: one(block("button", "b", { href: "https:/a.example" })),
        at: "b",
        weight: "look",
        says: /not written/,
        mends: true,
      },
      {
        email: one(block("button", "b", { href: "https://beans" })),
        at: "b",
        weight: "look",
        says: /is no site/,
      },
      {
        email: one(block("button", "b", { href: "#beans" })),
        at: "b",
        weight: "look",
        says: /within the message/,
      },
      {
        email: one(block("button", "b", { href: "mailto:beans" })),
        at: "b",
        weight: "look",
        says: /to write to/,
      },
      { email: one(block("button", "b", { href: "tel:beans" })), at: "b", weight: "look", says: /to call/ },
    ],
    passes: [
      "https://a.example/?who={$first_name}",
      "{$brand.website}",
      "mailto:ask@tansyrow.example",
      "tel:+49 30 123",
      "https://[2001:db8::1]/",
      "https://{$branch.site}/x",
    ].map((href) => ({ email: one(block("button", "b", { href })) })),
  },
  "links-plain": {
    trips: [
      {
        email: said("See ", linkTo("http://a.example/x", "the beans")),
        at: "t",
        weight: "could",
        says: /not protected/,
        mends: true,
      },
    ],
  },
  "links-words": {
    trips: [
      {
        email: said("Press ", linkTo("https://a.example/x", "here"), "."),
        at: "t",
        weight: "could",
        says: /“here”/,
      },
      {
        email: one(block("button", "b", { href: "https://a.example", content: words("Click here!") })),
        at: "b",
        weight: "could",
        says: /Click here/,
      },
    ],
    passes: [{ email: said("Find us ", linkTo("https://a.example/x", "here in Alderwick"), ".") }],
  },
  "links-alike": {
    trips: [
      {
        email: one(
          text("a", linkTo("https://a.example/1", "Read on")),
          text("z", linkTo("https://a.example/2", "read on…")),
        ),
        at: "z",
        weight: "could",
        says: /leads to 2 different places/,
      },
    ],
    passes: [
      {
        email: one(
          text("a", linkTo("https://a.example/1", "Beans")),
          text("z", linkTo("https://a.example/1/", "Beans")),
        ),
      },
    ],
  },
  "links-file": {
    trips: [
      {
        email: said("See ", linkTo("https://a.example/plan.pdf?x=1", "the plan")),
        at: "t",
        weight: "could",
        says: /leads to a PDF file/,
      },
      {
        email: said("See ", linkTo("https://a.example/plan.zip", "the plan")),
        at: "t",
        weight: "look",
        says: /straight to a .zip/,
      },
    ],
    passes: [{ email: said("See ", linkTo("https://a.example/plan.pdf", "the plan (PDF, 2 MB)")) }],
  },
  alternative: {
    trips: [
      { email: one(picture({ alt: "" })), at: "p", weight: "look", says: /no alternative text/, mends: true },
      { email: one(picture({ alt: "IMG_2041.jpg" })), at: "p", weight: "look", says: /name of a file/ },
      { email: one(picture({ alt: "DSC 204" })), at: "p", weight: "look", says: /name of a file/ },
      { email: one(picture({ alt: "w".repeat(126) })), at: "p", weight: "could", says: /126 characters/ },
    ],
    passes: [
      { email: one(picture({ alt: "", decorative: true })) },
      { email: one(picture({ alt: "A bed of carrots" })) },
      { email: one(block("image", "p")) },
    ],
  },
  twice: {
    trips: [
      { email: said("Hold the the beans."), at: "t", weight: "look", says: /“the the”/, mends: true },
      { email: said("Hold  the beans."), at: "t", weight: "could", says: /two spaces/, mends: true },
      { email: said(either("Sow sow it", "Wait")), at: "t", weight: "look", says: /“Sow sow”/, mends: true },
    ],
    passes: [{ email: said("What we had had was enough; bye bye, and on-on it goes to 10 10.") }],
  },
  quotes: {
    trips: [
      {
        email: one(text("a", "“Peas”"), text("z", 'Say "beans" and ("leeks").')),
        at: "z",
        weight: "could",
        says: /among curly ones/,
        mends: true,
      },
    ],
    passes: [{ email: said('"Peas" and "beans"') }, { email: said("“Peas” in a 5-litre pot") }],
  },
  "table-header": {
    trips: [
      {
        email: one(table({ header: false })),
        at: "t",
        weight: "could",
        says: /what its columns are/,
        mends: true,
      },
    ],
    passes: [
      { email: one(table({ header: true })) },
      { email: one(table({ header: false, rowHeads: true })) },
    ],
  },
  "heading-order": {
    trips: [
      {
        email: one(
          block("heading", "h", { content: words("Peas") }),
          block("heading", "x", { content: words("Beans"), outline: 4 } as never),
        ),
        at: "x",
        weight: "could",
        says: /“Beans” skips a level/,
      },
    ],
  },
  enlarged: {
    trips: [
      {
        email: one(picture({ alt: "A bed", natural: { width: 240, height: 120 } })),
        at: "p",
        weight: "look",
        says: /looks blurred/,
      },
    ],
    passes: [{ email: one(picture({ alt: "A bed", natural: { width: 2400, height: 1200 } })) }],
  },
  "heavy-pictures": {
    trips: [
      {
        email: one(picture({ alt: "A" })),
        more: weights(300_000),
        at: "p",
        weight: "could",
        says: /“Carrots” weighs/,
      },
      {
        email: one(picture({ alt: "A" })),
        more: weights(3_000_000, 1),
        at: "p",
        weight: "look",
        says: /2,930 KB/,
      },
      {
        email: one(picture({ alt: "A" })),
        more: weights(9, 2_000_000),
        at: null,
        weight: "look",
        says: /All pictures together/,
      },
    ],
    passes: [{ email: one(picture({ alt: "A" })), more: weights(150_000) }],
  },
  contrast: {
    trips: [
      {
        email: one(block("heading", "h", { content: words("Pale"), color: "#A09CA6" } as never)),
        at: "h",
        weight: "look",
        says: /“Pale” can hardly be read in light/,
      },
      {
        email: one(
          block("code", "k", {
            html: '<table><tr><td style="background-color:#eeeeee"><a href="https://a.example" style="color:#000000">Go</a></td></tr></table>',
          } as never),
        ),
        at: "k",
        weight: "look",
        says: /The button “Go” can hardly be told/,
      },
    ],
  },
  "type-size": {
    trips: [
      {
        email: one(block("heading", "h", { content: words("Tiny"), size: 10 } as never)),
        at: "h",
        weight: "look",
        says: /“Tiny” is 10 px on phones/,
      },
    ],
    passes: [
      {
        email: one(block("heading", "h", { content: words("Tiny"), size: 10, phone: { size: 16 } } as never)),
      },
    ],
  },
  prices: {
    trips: [
      // Placed at what it cost then, not following.
      {
        email: shop({}),
        more: catalogue(4),
        at: "i",
        weight: "look",
        says: /“Kale” costs €3\.00 here, and €4\.00 at its source/,
        mends: true,
      },
      // Cheaper at its source now.
      {
        email: shop({}),
        more: catalogue(3, 2.5),
        at: "i",
        weight: "look",
        says: /€2\.50 at its source/,
        mends: true,
      },
      // Typed over, though it follows.
      {
        email: shop({ follow: true }, { price: 5 }),
        more: catalogue(4),
        at: "i",
        weight: "look",
        says: /€5\.00 here/,
        mends: true,
      },
    ],
    passes: [
      { email: shop({}), more: catalogue(3) },
      { email: shop({ follow: true }), more: catalogue(4) },
      { email: shop({ off: ["price"] }), more: catalogue(4) },
      // Gone at its source: told by another check.
      { email: shop({}), more: { catalogue: [] } },
    ],
  },
  "colour-alone": {
    trips: [
      {
        email: linked,
        more: themed({ underline: false }, "#333333", "#2B4A6F"),
        at: "t",
        weight: "could",
        says: /by 1\.\d to 1\./,
      },
      {
        email: linked,
        more: themed({ underline: false, weight: 500 }, "#111111", "#8A8AF0", "#EEEEEE", "#CCDDEE"),
        at: "t",
        weight: "could",
        says: /to 1 in the dark\./,
      },
    ],
    passes: [
      { email: linked, more: themed({ underline: true }, "#333333", "#2B4A6F") },
      { email: linked, more: themed({ underline: false, weight: 600 }, "#333333", "#2B4A6F") },
      { email: linked, more: themed({ underline: false }, "#111111", "#8A8AF0", "#FFFFFF", "#5070C0") },
      // A button is told by its face.
      { email: plain(), more: themed({ underline: false }, "#333333", "#2B4A6F") },
    ],
  },
  targets: {
    trips: [
      {
        email: one(
          block("button", "b", { content: words("Sow"), href: "https://a.example/", padY: 6 } as never),
        ),
        at: "b",
        weight: "could",
        says: /^A button is 32 px high on phones/,
        mends: true,
      },
      {
        // Smaller on phones alone, with a border.
        email: one(
          block("button", "b", {
            href: "https://a.example/",
            padY: 10,
            size: 20,
            phone: { size: 12 },
            border: { width: 2, style: "solid", color: "#000000" },
          } as never),
        ),
        at: "b",
        weight: "could",
        says: /is 42 px high/,
        mends: true,
      },
    ],
    passes: [
      { email: one(block("button", "b", { href: "https://a.example/", padY: 12, size: 16 } as never)) },
    ],
  },
  emoji: {
    trips: [
      {
        email: envelope({ subject: words("Frost 🫠 is over") }),
        at: null,
        weight: "could",
        says: /subject has “🫠”/,
      },
      {
        email: envelope({ preheader: words("🪻 and more") }),
        at: null,
        weight: "could",
        says: /preheader has “🪻”/,
      },
      { email: said("Hyacinths 🪻"), at: "t", weight: "could", says: /^It has “🪻”/ },
    ],
    // As old as the programs that most have, one of them beside the newer ones.
    passes: [{ email: said("Beans 🌱 and a worm 🪱") }],
  },
  theme: {
    trips: [{ email: { ...plain(), theme: "gone@3" }, at: null, weight: "look", says: /not here/ }],
  },
  hair: {
    trips: [
      {
        email: one(
          block("heading", "a", { content: words("One"), color: "#AA3300" } as never),
          block("heading", "z", { content: words("Two"), color: "#AA3400" } as never),
        ),
        at: "z",
        weight: "could",
        says: /differ by a hair/,
        mends: true,
      },
    ],
    passes: [
      {
        email: one(
          block("heading", "a", { content: words("One"), color: "#AA3300" } as never),
          block("heading", "z", { content: words("Two"), color: "#0033AA" } as never),
        ),
      },
    ],
  },
  "style-block": {
    trips: [
      {
        email: one(
          ...Array.from({ length: 240 }, (_, at) =>
            block("heading", `h${at}`, {
              content: words("A"),
              color: `#${(at * 65_000).toString(16).padStart(6, "0").toUpperCase()}`,
              phone: { size: 14 + at },
            } as never),
          ),
        ),
        at: null,
        weight: "stops",
        says: /drop it from 16 KB on/,
      },
    ],
  },
  weight: {
    trips: [
      {
        email: one(...Array.from({ length: 60 }, (_, at) => text(`t${at}`, "Words to read. ".repeat(130)))),
        at: null,
        weight: "look",
        says: /heavier than 102 KB/,
      },
      {
        email: one(...Array.from({ length: 41 }, (_, at) => text(`t${at}`, "Words to read. ".repeat(130)))),
        at: null,
        weight: "could",
        says: /nearly 102 KB/,
      },
    ],
  },
  "inbox-line": {
    trips: [
      {
        email: envelope({ subject: words(`Hold your beans ${"and peas ".repeat(8)}`) }),
        at: null,
        weight: "could",
        says: /The subject: it has \d+ characters/,
      },
      {
        email: envelope({ preheader: [] }),
        at: null,
        weight: "could",
        says: /The preheader: without a preheader/,
      },
    ],
  },
  "picture-share": {
    trips: [
      {
        email: one(picture({ alt: "Carrots in a row and beans behind them ".repeat(30) })),
        at: null,
        weight: "could",
        says: /less than 60 %/,
      },
    ],
  },
  shouting: {
    trips: [
      { email: said("PLEASE SOW NOW and wait"), at: "t", weight: "could", says: /“PLEASE SOW NOW” shouts/ },
    ],
    passes: [{ email: said("The RHS and the BBC say wait! Your code: BULBS-2026") }],
  },
  "reading-ease": {
    trips: [
      {
        email: said(
          "Notwithstanding considerable meteorological uncertainties, horticultural professionals unanimously recommend postponing outdoor cultivation of particularly temperature-sensitive leguminous varieties until meteorological conditions demonstrably stabilise.",
        ),
        at: null,
        weight: "could",
        says: /hard to read/,
      },
    ],
  },
  answers: {
    trips: [
      {
        email: envelope({ sender: { name: words("A"), address: "no-reply@tansyrow.example" } }),
        at: null,
        weight: "could",
        says: /Answers go to no-reply@/,
      },
    ],
    passes: [
      {
        email: envelope({
          sender: { name: words("A"), address: "noreply@tansyrow.example", replyTo: "ask@tansyrow.example" },
        }),
      },
    ],
  },
};

function hiddenFooter(): Email {
  const email = plain();
  return {
    ...email,
    sections: email.sections.map((one, at) => (at === 1 ? { ...one, hideOn: "phone" } : one)),
  };
}

test("every check has a case that trips it, and no two share a name", () => {
  expect(CHECKS.map(({ name }) => name).sort()).toEqual(Object.keys(CASES).sort());
});

test("in a plain letter nothing is found, whoever gets it", () => {
  for (const check of CHECKS)
    for (const reader of [...READERS, sampleContact(9, {})])
      expect(foundBy(check, plain(), {}, reader), check.name).toEqual([]);
});

describe.each(CHECKS.map((check) => [check.name, check] as const))("%s", (name, check) => {
  const { trips = [], passes = [] } = CASES[name] ?? {};
  test.each(trips.map((trip) => [trip.says.source, trip] as const))("finds: %s", (_, trip) => {
    const found = foundBy(check, trip.email, trip.more, trip.reader);
    const told = found.find(({ text: it }) => trip.says.test(it));
    expect(told, found.map(({ text: it }) => it).join("\n")).toBeDefined();
    expect(told).toMatchObject({ weight: trip.weight, ...(trip.at !== null && { block: trip.at }) });
    if (trip.at === null) expect(told?.block).toBeUndefined();
    expect(told?.text).not.toContain("{$");
    expect(told?.text).toMatch(/[.!?]$/);
    if (!trip.mends || !told) return;
    expect(told.mend?.label).not.toBe("");
    const after = foundBy(check, mended(trip.email, told), trip.more, trip.reader);
    expect(after.map(({ text: it }) => it)).not.toContain(told.text);
    expect(after.length).toBeLessThan(found.length);
  });
  if (passes.length > 0)
    test.each(passes.map((one, at) => [at, one] as const))(
      "finds nothing in %i",
      (_, { email, more, reader }) => {
        expect(foundBy(check, email, more, reader).map(({ text: it }) => it)).toEqual([]);
      },
    );
});
