/** Pages for readers: each language says all there is to say, and nothing that a reader or a brand is called gets out of its words. */
import fc from "fast-check";
import { expect, test } from "vitest";
import type { ContactStatus } from "../audience";
import { type Brand, DEFAULT_THEME, PLACEHOLDER_BRAND, THEMES } from "../email";
import {
  answerPage,
  confirmPage,
  joinAskedPage,
  joinPage,
  languagesAsked,
  messagePage,
  type PageContext,
  preferencesPage,
  surveyPage,
  tongueOf,
  WORDS,
} from ".";

const LANGUAGES = Object.keys(WORDS);
const named = (words: string) => (words.match(/\{\w+\}/g) ?? []).sort();

test.each(LANGUAGES)("%s says all there is to say, with the same that differs", (language) => {
  const words = WORDS[language];
  expect(Object.keys(words)).toEqual(Object.keys(WORDS.en));
  for (const [key, said] of Object.entries(words)) {
    expect(said.trim(), key).not.toBe("");
    expect([...new Set(named(said))], key).toEqual([
      ...new Set(named(WORDS.en[key as keyof typeof WORDS.en])),
    ]);
    if (language !== "en") expect(said, key).not.toBe(WORDS.en[key as keyof typeof WORDS.en]);
  }
});

const context = (language: string, brand: Partial<Brand> = {}, theme = DEFAULT_THEME): PageContext => ({
  ...tongueOf(language),
  brand: { ...PLACEHOLDER_BRAND, ...brand },
  theme,
});

const STATUSES: ContactStatus[] = ["subscribed", "unsubscribed", "bounced", "complained", "removed"];

/** Every page there is, with hostile words wherever somebody else writes some. */
function everyPage(of: PageContext, said: string): string[] {
  const topics = [{ id: said, name: said, about: said, on: true }];
  return [
    preferencesPage(of, null),
    ...STATUSES.flatMap((status) =>
      [topics, []].map((some) => preferencesPage(of, { email: said, status, topics: some }, true)),
    ),
    answerPage(of, { answer: 3, greatest: 5, given: null }),
    answerPage(of, { answer: 3, greatest: 5, given: 3 }),
    answerPage(of, 3),
    answerPage(of, null),
    surveyPage(
      of,
      { question: "How <was> it?", scale: [1, 2, 3], low: "No", high: "Yes", given: 2 },
      "/answer/t/b",
    ),
    joinPage(of, { title: said, words: said, consent: said, by: said }),
    joinPage(
      of,
      { title: said, words: "", consent: said, by: null },
      { email: said, name: said, problem: said },
    ),
    joinAskedPage(of, said),
    joinAskedPage(of, null),
    confirmPage(of, { email: said, confirmed: false }),
    confirmPage(of, { email: said, confirmed: true }),
    messagePage(of, said, said),
  ];
}

test("no page has a script, a hole, or markup of somebody else’s", () => {
  const hostile = `"'><script>alert(1)</script><img src=x onerror=alert(1)>{email}{brand}$&`;
  for (const language of LANGUAGES)
    for (const html of everyPage(context(language, { name: hostile }), hostile)) {
      expect(html).toContain(`<html lang="${language}" dir="ltr">`);
      expect(html).not.toMatch(/<script|<img src=x|onerror=alert\(1\)>/);
      expect(html.match(/<h1>/g)).toHaveLength(1);
    }
  for (const language of LANGUAGES)
    for (const html of everyPage(context(language), "harmless"))
      expect(html).not.toMatch(/\{\w+\}(?!.*<\/style>)/);
});

test("what differs stands in its place, whatever it is", () => {
  fc.assert(
    fc.property(fc.string(), fc.string(), (name, email) => {
      const html = preferencesPage(context("de", { name }), { email, status: "unsubscribed", topics: [] });
      const text = html.slice(html.indexOf("<main>")).replace(/<[^>]*>/g, "");
      const plain = (words: string) =>
        words
          .replaceAll("&", "&amp;")
          .replaceAll("<", "&lt;")
          .replaceAll(">", "&gt;")
          .replaceAll('"', "&quot;")
          .replaceAll("'", "&#39;");
      expect(text).toContain(`${plain(email)} bekommt keine Post mehr von ${plain(name)}.`);
    }),
  );
});

test("a page looks as the letters do: colours in light and dark, fonts, buttons, the brand’s picture", () => {
  for (const theme of THEMES) {
    const html = preferencesPage(context("en", {}, theme), {
      email: "a@b.example",
      status: "subscribed",
      topics: [],
    });
    for (const { accent, paper, onAccent } of [theme.light, theme.dark])
      for (const color of [accent, paper, onAccent]) expect(html).toContain(color);
    expect(html).toContain(`border-radius:${theme.button.radius}px`);
    expect(html).toContain(theme.fonts.body);
  }
  const logo = { src: "/pictures/logo.png", width: 200, height: 50 };
  expect(messagePage(context("en", { logo }), "A", "B")).toContain(
    '<p class="brand lit"><picture><img src="/pictures/logo.png" width="200" height="50" alt="My organisation">',
  );
  expect(
    messagePage(context("en", { logo, logoDark: { ...logo, src: "/pictures/dark.png" } }), "A", "B"),
  ).toContain('<source media="(prefers-color-scheme:dark)" srcset="/pictures/dark.png">');
});

test("the language is the first that is spoken, by its kind where need be", () => {
  expect(tongueOf("xx", null, "", "de-AT", "fr").language).toBe("de");
  expect(tongueOf("PT_br").language).toBe("pt");
  expect(tongueOf("constructor", "__proto__").language).toBe("en");
  expect(tongueOf().language).toBe("en");
});

test("what a browser asks for is read in its order, and nonsense is none", () => {
  expect(languagesAsked("fr-CH, fr;q=0.9, en;q=0.8, de;q=0.95, *;q=0.5")).toEqual([
    "fr-CH",
    "de",
    "fr",
    "en",
  ]);
  expect(languagesAsked("de;q=0, it;level=1;q=0.3")).toEqual(["it"]);
  expect(languagesAsked("")).toEqual([]);
  fc.assert(
    fc.property(fc.string(), (header) => void expect(Array.isArray(languagesAsked(header))).toBe(true)),
  );
});
