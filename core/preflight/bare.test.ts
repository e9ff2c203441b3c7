import { expect, test } from "vitest";
import type { Rule } from "../audience";
import { createBlock } from "../blocks";
import { type Block, type Email, SCHEMA_VERSION } from "../email";
import { sampleContact } from "../render/sample";
import { isBare } from ".";

const COOL: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const audience = { today: "2026-03-30", segments: new Map() };
const email = (blocks: Block[], show?: Rule): Email => ({
  schema: SCHEMA_VERSION,
  language: "en",
  theme: "plain",
  envelope: { subject: [], preheader: [], sender: { name: [], address: "" } },
  sections: [
    { id: "s", ...(show && { show }), rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] },
  ],
});
const footer = createBlock("footer", "f") as Block;
const text = createBlock("text", "t") as Block;
const bare = (design: Email, zone: string) => isBare(design, sampleContact(1, { zone }), audience);

test("a reader of whom the rules leave header and footer gets an email with nothing in it", () => {
  const ruled = email([{ ...text, show: COOL }, footer]);
  expect(bare(ruled, "cool")).toBe(false);
  expect(bare(ruled, "mild")).toBe(true);
  expect(bare(email([text, footer], COOL), "mild")).toBe(true);
  expect(bare(email([text, footer]), "mild")).toBe(false);
});

test("a design that holds nothing else has nothing to lose", () => {
  expect(bare(email([footer]), "mild")).toBe(false);
});
