import { afterAll, beforeAll, expect, test } from "vitest";
import { CHECKS, designFindings, recipients } from "~/core/preflight";
import { SAMPLE_BRAND, SAMPLE_OPTIONS } from "~/core/render/sample";
import { TEMPLATES, templateEmail } from "~/core/templates";
import type { Septima } from "../septima";
import { openWorld, TEST_BRAND } from "../test-world";
import { brandOf } from "../workspace/settings";
import { keepWords, spellingOf } from "./spelling";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

test("English is known as it is written on both sides of the ocean, and what is wrong has a suggestion", async () => {
  const english = (await spellingOf(septima, ["en-GB", "de"]))("en")!;
  for (const word of ["colour", "color", "greenhouse", "don't", "seedlings", "Aubergine"])
    expect(english.knows(word), word).toBe(true);
  for (const [wrong, right] of [
    ["recieve", "receive"],
    ["seedlngs", "seedlings"],
    ["appels", "apples"],
  ]) {
    expect(english.knows(wrong), wrong).toBe(false);
    expect(english.suggests(wrong)[0], wrong).toBe(right);
  }
});

test("a language without a dictionary is not looked at", async () => {
  const spellers = await spellingOf(septima, ["de", "en"]);
  expect(spellers("de")).toBeNull();
  expect((await spellingOf(septima, ["de"]))("en")).toBeNull();
});

test("what the brand calls itself is a word, and so is what is kept as one", async () => {
  const knows = async (word: string) => (await spellingOf(septima, ["en"]))("en")!.knows(word);
  for (const word of ["tansy", TEST_BRAND.senders[0].name.split(" ")[0]])
    expect(await knows(word), word).toBe(true);
  expect(await knows("brandywine’s")).toBe(false);
  await keepWords(septima, [" Brandywine’s ", "kohl"]);
  await keepWords(septima, ["kohl"]);
  expect(await knows("brandywine's")).toBe(true);
  expect((await brandOf(septima)).words).toEqual(["Brandywine’s", "kohl"]);
  await expect(
    keepWords(
      septima,
      Array.from({ length: 2000 }, (_, at) => `w${at}`),
    ),
  ).rejects.toThrow("2000 words");
});

test("in what ships to start from every word is known", async () => {
  const spelling = await spellingOf(septima, ["en"]);
  const check = CHECKS.filter(({ name }) => name === "spelling");
  const around = {
    spelling,
    brand: SAMPLE_BRAND,
    theme: SAMPLE_OPTIONS.theme,
    readers: recipients([], { today: "2026-11-25", segments: new Map() }),
  };
  const found = TEMPLATES.flatMap((template) =>
    designFindings(templateEmail(template, "feed"), around, check).map(
      ({ text }) => `${template.name}: ${text}`,
    ),
  );
  expect(found).toEqual([]);
});
