/** What each class of mail programs removes and leaves, claim by claim, each with its source; looked at in one message that uses them all. */
import { describe, expect, test } from "vitest";
import { asSeen, INBOXES, type InboxName } from ".";

/** What is known of mail programs is written down by what they do; these are where it is written. */
const SOURCES = {
  word: "The engine’s published list of the HTML elements and CSS properties it renders, and of those it leaves out",
  conditional: "The engine’s documentation of conditional comments: `[if mso]` is read, `[if !mso]` is not",
  vml: "Vector Markup Language, W3C note of 1998: `rect`, `fill`, `textbox`",
  stripped:
    "Programs that show accounts of other providers remove every `style` element and with it all classes",
  scheme: "Media Queries Level 5, 11.5: `prefers-color-scheme`",
  meta: "CSS Color Adjustment Level 1, 2.2: the `color-scheme` meta",
  pictures: "HTML, 4.8.3: where an image is not available its alternative text stands in its place",
  partial:
    "Partial inversion, as observed: dark words become light and light grounds dark, mid-tones and pictures stay",
  full: "Full inversion, as observed: all colours of words, grounds and lines are turned round, pictures stay",
  modern: "Engines of browsers, which keep what CSS defines",
} as const;

/** A message in which each thing has a mark of its own. */
const PAGE = `<!doctype html><html lang="en"><head><meta name="color-scheme" content="light dark">
<style>.tone{color:#101112}@media (prefers-color-scheme:dark){.tone{color:#f1f2f3!important}}@media (max-width:600px){.narrow{width:77px}}</style></head>
<body style="background-color:#ffffff">
<!--[if mso]><p>FOR THE ENGINE</p><![endif]--><!--[if !mso]><!--><p>FOR ALL OTHERS</p><!--<![endif]-->
<div style="max-width:611px;border-radius:12px;box-shadow:0 1px 2px #123456;float:left;position:relative;overflow:hidden;opacity:0.51;display:inline-block;padding:13px;width:199px;background-image:url('https://a.example/behind.png');color:#202122">boxed</div>
<table width="598" style="width:598px"><tr><td style="padding:17px;mso-padding-alt:19px;width:151px" bgcolor="#fafbfc" background="https://a.example/cell.png">cell</td></tr></table>
<p class="tone" style="color:#303132;background-color:rgba(10,20,30,0.5)">toned</p><p class="narrow" style="mso-hide:all">hidden there</p>
<p style="color:#808182;background-color:#858687;border:2px solid #404142">middle</p><p style="color:#e8e9ea;background-color:#151617">night</p>
<!--[if mso]><v:rect style="width:321px;height:98px" fill="t"><v:fill type="frame" src="https://a.example/vml.png" color="#abcdef" /><v:textbox><p>on it</p></v:textbox></v:rect><![endif]-->
<img src="https://a.example/p.png" alt="What it shows" width="63" style="background-color:#e5e6e7;color:#333435"></body></html>`;

interface Claim {
  says: string;
  source: keyof typeof SOURCES;
  /** What stands in the page as it is shown, and what does not. */
  has?: readonly (string | RegExp)[];
  not?: readonly (string | RegExp)[];
}

const SHOWN = ["boxed", "toned", "middle", "night", ">cell<"];
const keepsAll = (more: readonly string[] = []): Claim => ({
  says: "keeps what is written inline",
  source: "modern",
  has: [
    ...SHOWN,
    "max-width:611px",
    "border-radius:12px",
    "box-shadow",
    "position:relative",
    "padding:13px",
    "FOR ALL OTHERS",
    "rgba(10",
    ...more,
  ],
});

const CLAIMS: Record<InboxName, Claim[]> = {
  light: [
    keepsAll(["p.png", "behind.png", "cell.png"]),
    {
      says: "leaves out what is for the dark",
      source: "scheme",
      not: ["#f1f2f3"],
      has: [".tone{color:#101112}"],
    },
    { says: "says that it is light", source: "meta", has: ['content="light"'] },
    {
      says: "reads conditional comments as comments",
      source: "conditional",
      has: ["<!--[if mso]><p>FOR THE ENGINE</p><![endif]-->", "<!--[if mso]><v:rect"],
    },
  ],
  dark: [
    keepsAll(),
    {
      says: "applies what is for the dark always",
      source: "scheme",
      has: [/\.tone\{color:#f1f2f3\s*!important\}/],
      not: ["prefers-color-scheme"],
    },
    { says: "turns no colour by itself", source: "scheme", has: ["color:#202122", "#fafbfc"] },
  ],
  stripped: [
    keepsAll(["p.png"]),
    {
      says: "removes every style block and all classes",
      source: "stripped",
      not: ["<style", "class=", "@media", "#f1f2f3"],
    },
  ],
  word: [
    {
      says: "lays out tables, cells and words",
      source: "word",
      has: [...SHOWN, 'width="598"', "color:#202122", 'bgcolor="#fafbfc"'],
    },
    ...[
      "max-width:611px",
      "border-radius",
      "box-shadow",
      "float",
      "position:relative",
      "overflow",
      "opacity",
      "inline-block",
      "behind.png",
    ].map((part): Claim => ({ says: `does not know ${part}`, source: "word", not: [part] })),
    { says: "shows no picture behind a cell", source: "word", not: ["cell.png"] },
    {
      says: "gives room inside and a width to cells alone",
      source: "word",
      not: ["padding:13px", "width:199px"],
      has: [/<td[^>]*padding:19px/, /<td[^>]*width:151px/],
    },
    { says: "has no colours that can be seen through", source: "word", not: ["rgba("] },
    { says: "drops the style block’s say", source: "word", not: ["<style", "@media"] },
    {
      says: "reads what is written for it, and not what is for others",
      source: "conditional",
      has: ["FOR THE ENGINE"],
      not: ["FOR ALL OTHERS"],
    },
    {
      says: "hides what is to be hidden there",
      source: "conditional",
      has: [/<p[^>]*style="display:none"[^>]*>hidden there/],
    },
    {
      says: "draws VML with its picture, its colour and what stands on it",
      source: "vml",
      has: ["vml.png", "background-color:#abcdef", "background-size:cover", /width:321px[\s\S]*on it/],
    },
  ],
  picturesOff: [
    {
      says: "fetches no picture, in the page, behind it or behind a cell",
      source: "pictures",
      not: [/<img[^>]* src=/, "behind.png", "cell.png"],
    },
    {
      says: "shows the alternative text on its ground",
      source: "pictures",
      has: ['alt="What it shows"', "background-color:#e5e6e7"],
    },
    {
      says: "leaves the rest as it is",
      source: "modern",
      has: [...SHOWN, "max-width:611px", "border-radius:12px"],
    },
  ],
  partial: [
    {
      says: "lightens dark words and darkens light grounds",
      source: "partial",
      not: ["color:#202122", "#fafbfc", "background-color:#ffffff"],
    },
    {
      says: "leaves light words and dark grounds",
      source: "partial",
      has: [/color:#E8E9EA/i, /background-color:#151617/i],
    },
    { says: "leaves pictures", source: "partial", has: ["p.png", "behind.png"] },
    {
      says: "leaves mid-tones of grounds, and turns no scheme on",
      source: "partial",
      has: [/background-color:#858687/i],
      not: ["#f1f2f3"],
    },
  ],
  full: [
    {
      says: "turns all colours, light words and dark grounds too",
      source: "full",
      not: [/color:#202122/i, /#fafbfc/i, /[;"]color:#e8e9ea/i, /background-color:#151617/i, /#404142/i],
    },
    { says: "leaves pictures", source: "full", has: ["p.png", "behind.png"] },
    { says: "leaves how dense a colour is", source: "full", has: [/rgba\([^)]*, ?0?\.5\)/] },
  ],
};

describe.each(INBOXES)("$label", ({ name }) => {
  const page = asSeen(PAGE, name);
  test.each(CLAIMS[name])("$says ($source)", ({ source, has = [], not = [] }) => {
    expect(SOURCES[source]).not.toBe("");
    expect(has.length + not.length).toBeGreaterThan(0);
    for (const part of has) expect(page).toMatch(part);
    for (const part of not) {
      expect(page).not.toMatch(part);
      // It was there: what nobody wrote cannot be removed.
      expect(`${PAGE}${asSeen(PAGE, "light")}${asSeen(PAGE, "dark")}`).toMatch(part);
    }
  });
});
