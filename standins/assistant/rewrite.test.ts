import fc from "fast-check";
import { expect, test } from "vitest";
import { ASSIST_TASKS, assistInline } from "~/core/assistant";
import type { Inline } from "~/core/email";
import { rewritten } from "./rewrite";

const ask = async (text: string, task: (typeof ASSIST_TASKS)[number]) => rewritten(text, task);

test("each task does what it says, by rules", async () => {
  expect(await ask("We really need to sow now, in order to harvest (in May).", "shorten")).toBe(
    "We need to sow now, to harvest.",
  );
  expect(await ask("Prior to that, utilise fleece; purchase more.", "plainer")).toBe(
    "Before that, use fleece. Buy more.",
  );
  expect(await ask("We can't wait, it's time!", "formal")).toBe("We cannot wait, it is time.");
  expect(await ask("Dear friends, we are here and do not bite.", "warmer")).toBe(
    "Hello friends, we’re here and don’t bite.",
  );
  expect(await ask("Begin now.", "reword")).toBe("Start today.");
});

const tag: Inline = { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } };
const word = fc.constantFrom(
  "we are",
  "really",
  "now",
  "begin",
  "in order to",
  "sow",
  "can’t",
  "it's",
  "(here)",
);
const inline: fc.Arbitrary<Inline> = fc.oneof(
  { weight: 4, arbitrary: word.map((text): Inline => ({ type: "text", text: `${text} ` })) },
  word.map((text): Inline => ({ type: "text", text: `${text} `, marks: [{ type: "bold" }] })),
  fc.constant<Inline>({ type: "hardBreak" }),
  fc.constant(tag),
);

test("merge tags, line breaks and looks survive whatever is asked", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(inline, { maxLength: 10 }),
      fc.constantFrom(...ASSIST_TASKS),
      async (line, task) => {
        const back = await assistInline(line, (text) => ask(text, task));
        const kept = (content: readonly Inline[]) => content.filter((it) => it.type !== "text");
        expect(kept(back)).toEqual(kept(line));
        const looks = (content: readonly Inline[]) => JSON.stringify(content).includes('"bold"');
        if (looks(back)) expect(looks(line)).toBe(true);
      },
    ),
    { numRuns: 300 },
  );
});

test("an answer that loses a merge tag is refused", async () => {
  const line: Inline[] = [{ type: "text", text: "Dear " }, tag, { type: "text", text: ", sow now" }];
  expect(await assistInline(line, async () => "Sow!")).toEqual(line);
  expect(await assistInline(line, async (text) => text.replace("Dear", "Hello"))).toEqual([
    { type: "text", text: "Hello " },
    tag,
    { type: "text", text: ", sow now" },
  ]);
});
