import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import { richText } from "../email";
import { CLIPPINGS, TEMPLATES, templateEmail } from "../templates";
import { partWords, searchWords } from "./search-words";

test("a design is found by its subject, its words, its links and what it shows", () => {
  for (const template of TEMPLATES) {
    const words = searchWords(templateEmail(template, ""));
    expect(words, template.name).toContain(
      template.preheader
        .replace(/\{[^}]*\}/g, "")
        .slice(0, 20)
        .toLowerCase()
        .trim(),
    );
    expect(words, template.name).toBe(words.toLowerCase());
  }
  const [half] = TEMPLATES.filter(({ id }) => id === "half");
  const words = searchWords(templateEmail(half, ""));
  for (const sought of [
    "still in their crates",
    "tansyrow.example/bulbs",
    "two carrots",
    "half-price-solid.png",
  ])
    expect(words).toContain(sought);
});

test("a part is found by what it says, not by what its properties are called", () => {
  const block = { ...createBlock("text", "b"), content: richText("Sow under glass") };
  const words = partWords({ part: "block", node: block });
  expect(words).toContain("sow under glass");
  for (const name of ["content", "paragraph", "type", "padding"]) expect(words).not.toContain(name);
  for (const clipping of CLIPPINGS) expect(partWords(clipping), clipping.name).toMatch(/\w{3}|^\s*$/);
});
