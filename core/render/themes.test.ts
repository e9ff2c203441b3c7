import { describe, expect, test } from "vitest";
import { type Email, THEMES, type Theme, ThemeSchema, WEB_FONTS } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile, groundAt } from ".";
import { colourful, PALE } from "./colourful";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://s.example"),
);

function messageIn(theme: Theme, email: Email) {
  const program = compile(email, { ...SAMPLE_OPTIONS, theme });
  return { ...personalise(bind(program, world), reader), styleBytes: program.styleBytes };
}

/** What a reader reads of HTML, without how it looks. */
const wordsOf = (html: string) =>
  html
    .replace(/<!--[\s\S]*?-->|<(style|xml)[\s\S]*?<\/\1>/g, "")
    .replace(/<[^>]*>/g, " ")
    .replace(/\s+/g, " ")
    .trim();
const linksOf = (html: string) => [...html.matchAll(/ href="([^"]*)"/g)].map(([, href]) => href);

describe.each(THEMES.map((theme) => [theme.name, theme] as const))("%s", (_name, theme) => {
  const plain = THEMES[0];
  test.each([
    ["every kind of block", colourful(PALE, { own: false })],
    ["looks of their own", colourful(PALE)],
    ["a long letter", sampleEmail(60)],
  ])("not one character changes, not one link: %s", (_what, email) => {
    const before = JSON.stringify(email);
    const [one, other] = [messageIn(plain, email), messageIn(theme, email)];
    expect(other.text).toBe(one.text);
    expect(other.subject).toBe(one.subject);
    expect(wordsOf(other.html)).toBe(wordsOf(one.html));
    expect(linksOf(other.html)).toEqual(linksOf(one.html));
    expect(JSON.stringify(email)).toBe(before);
  });

  test("is a theme as they are stored, and its style block is small", () => {
    expect(ThemeSchema.parse(theme)).toEqual(theme);
    const { html, styleBytes } = messageIn(theme, colourful(PALE, { own: false }));
    expect(styleBytes).toBeLessThan(12 * 1024);
    expect(new TextEncoder().encode(html).length / 4).toBeLessThan(90 * 1024);
  });

  test("every stack ends in what mail programs have", () => {
    for (const stack of Object.values(theme.fonts)) {
      const families = stack.split(",").map((family) => family.trim());
      expect(families.at(-1)).toMatch(/^(serif|sans-serif|monospace)$/);
      expect(WEB_FONTS.some(({ family }) => families.slice(1).includes(family))).toBe(false);
    }
  });
});

describe("web fonts", () => {
  const named = (id: string) => messageIn(THEMES.find((theme) => theme.id === id)!, sampleEmail(3)).html;

  test("stand in a style block of their own, and tell the word-processor engine what to take instead", () => {
    const html = named("greenhouse");
    const blocks = [...html.matchAll(/<style>([\s\S]*?)<\/style>/g)].map(([, css]) => css);
    expect(blocks[0]).not.toContain("@font-face");
    expect(blocks[1]).toContain(
      `@font-face{font-family:"Fraunces";src:url(${SAMPLE_OPTIONS.origin}/fonts/fraunces.woff2)`,
    );
    expect(html).toMatch(
      /<!--\[if mso\]><style>@font-face\{font-family:"Fraunces";mso-font-alt:"Georgia"\}<\/style><!\[endif\]-->/,
    );
    expect(blocks.join("")).not.toContain("Newsreader");
  });

  test("are not named where a theme has none", () => {
    expect(named("plain")).not.toContain("@font-face");
  });
});

test("a large heading is smaller on phones, unless it has a size of its own", () => {
  const market = THEMES.find(({ id }) => id === "market")!;
  const email = sampleEmail(3);
  const [block] = email.sections[0].rows[0].columns[0].blocks;
  Object.assign(block, { level: 1 });
  const html = messageIn(market, email).html;
  expect(html).toMatch(/<h1[^>]* class="[^"]*look-1[^"]*" style="[^"]*font-size:72px/);
  expect(html).toContain(".look-1{font-size:52px!important;line-height:0.95!important");
  Object.assign(block, { size: 30 });
  expect(messageIn(market, email).html).not.toMatch(/<h1[^>]* class="[^"]*look-1/);
});

test("what is unsafe in a font's name is refused", () => {
  const [theme] = THEMES;
  for (const body of ["Arial", "x;}body{display:none} , serif", 'Arial", serif', "url(x), serif"])
    expect(ThemeSchema.safeParse({ ...theme, fonts: { ...theme.fonts, body } }).success, body).toBe(false);
});

test("a large heading with a size of its own on phones stands as close there as on a desktop", () => {
  const email = sampleEmail(3);
  const [block] = email.sections[0].rows[0].columns[0].blocks;
  Object.assign(block, { type: "heading", level: 1, size: 104, phone: { size: 60 } });
  const { html } = messageIn(THEMES[0], email);
  const rules = [...html.matchAll(/\.p-size60 h3(?:,[^{]*)?\{([^}]*)\}/g)].map(([, rule]) => rule).join(";");
  expect(rules).toContain("font-size:60px!important");
  expect(Number([...rules.matchAll(/line-height:([\d.]+)/g)].at(-1)?.[1])).toBeLessThan(1.2);
});

test("a part that stands on a role takes the theme’s colour, and the document stays", () => {
  const email = sampleEmail(3);
  Object.assign(email.sections[0], { background: "heading", contentBackground: "accent" });
  Object.assign(email.sections[0].rows[0], { background: "table" });
  const before = JSON.stringify(email);
  for (const theme of THEMES) {
    const { html } = messageIn(theme, email);
    for (const role of ["heading", "accent", "table"] as const)
      expect(html).toContain(`background-color:${theme.light[role]}`);
    expect(html).not.toMatch(/(bgcolor="|background-color:)(accent|heading|table)/);
    const block = email.sections[0].rows[0].columns[0].blocks[0];
    expect(groundAt(email, block.id, theme)).toEqual({
      light: theme.light.table,
      dark: theme.dark.table,
    });
  }
  expect(JSON.stringify(email)).toBe(before);
});
