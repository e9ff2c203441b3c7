/** Every template in every theme, as every class of mail program shows it. */
import { describe, expect, test } from "vitest";
import { parseEmail } from "../blocks";
import { blocksOf, PURPOSES, SEASONS, THEMES, type Theme } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { designFindings, recipients } from "../preflight";
import { compile } from "../render";
import { SAMPLE_BRAND, SAMPLE_OPTIONS, sampleContact, sampleWorld } from "../render/sample";
import { TEMPLATES, templateEmail } from "../templates";
import { asSeen, INBOXES, pairsOf, wanted } from ".";

const world = sampleWorld("2026-11-23");
const feed = "journal";
const reader = readerOf(
  sampleContact(1, { first_name: "Ines", branch: "Alderwick" }),
  "en",
  previewAddresses("https://s.example"),
);

function messageIn(email: ReturnType<typeof templateEmail>, theme: Theme) {
  const program = compile(email, { ...SAMPLE_OPTIONS, theme });
  return { ...personalise(bind(program, world), reader), styleBytes: program.styleBytes };
}
const linksOf = (html: string) => [...html.matchAll(/ href="([^"]*)"/g)].map(([, href]) => href);

test("there are templates for every purpose and season, each found once", () => {
  expect(TEMPLATES.length).toBeGreaterThanOrEqual(24);
  expect(new Set(TEMPLATES.map(({ id }) => id)).size).toBe(TEMPLATES.length);
  expect(new Set(TEMPLATES.map(({ name }) => name)).size).toBe(TEMPLATES.length);
  for (const { key } of PURPOSES)
    expect(
      TEMPLATES.some(({ purpose }) => purpose === key),
      key,
    ).toBe(true);
  for (const one of SEASONS)
    expect(
      TEMPLATES.some(({ season }) => season === one),
      one,
    ).toBe(true);
});

describe.each(TEMPLATES.map((template) => [template.name, template] as const))("%s", (_name, template) => {
  const email = templateEmail(template, feed);
  const own = THEMES.find(({ id }) => id === template.theme) as Theme;
  const plain = messageIn(email, own);

  test("is a whole design that needs nothing but a sender and readers", () => {
    expect(own).toBeDefined();
    expect(parseEmail(JSON.parse(JSON.stringify(email)))).toEqual(email);
    const left = designFindings(email, {
      readers: recipients([sampleContact(1, { first_name: "Ines", branch: "Alderwick" })], world.audience),
      brand: SAMPLE_BRAND,
      theme: own,
    });
    expect(left.filter(({ weight }) => weight !== "could").map(({ text }) => text)).toEqual([
      "There is no sender’s address. Choose one above the email.",
    ]);
    for (const block of blocksOf(email))
      if ("alt" in block && "src" in block && block.type !== "overlaid") expect(block.alt).not.toBe("");
  });

  test.each(THEMES.map((theme) => [theme.name, theme] as const))("in %s", (_theme, theme) => {
    const before = JSON.stringify(email);
    const message = messageIn(email, theme);
    expect(message.text).toBe(plain.text);
    expect(message.subject).toBe(plain.subject);
    expect(linksOf(message.html)).toEqual(linksOf(plain.html));
    expect(JSON.stringify(email)).toBe(before);
    expect(new TextEncoder().encode(message.html).length).toBeLessThan(90 * 1024);
    expect(message.styleBytes).toBeLessThan(12 * 1024);
    for (const inbox of INBOXES) {
      const pairs = pairsOf(asSeen(message.html, inbox.name));
      const poor = pairs.filter((pair) => pair.ratio < wanted(pair));
      expect(
        poor.map(({ words, color, ground, ratio }) => `${ratio.toFixed(2)} “${words}” ${color} on ${ground}`),
        inbox.label,
      ).toEqual([]);
      expect(pairs.length).toBeGreaterThan(3);
    }
  });
});
