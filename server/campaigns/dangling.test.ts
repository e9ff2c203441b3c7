/** Designs that refer to what is not there: everything that looks at them answers, and says what is gone. */
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import { type Rule, RuleError } from "~/core/audience";
import { createBlock } from "~/core/blocks";
import {
  type Block,
  blocksOf,
  type Email,
  type Inline,
  MergeTagSchema,
  richText,
  SCHEMA_VERSION,
} from "~/core/email";
import { draftLetter } from "~/start/demo/draft";
import { bulbLetter, type Kit, workshopLetter } from "~/start/demo/emails";
import { addContacts } from "../audience/contacts";
import type { Selection } from "../audience/selection";
import { sheetNumbers } from "../dispatch/sheet";
import { codesMissing } from "../preflight/circumstances";
import { findingsOf } from "../preflight/preflight";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { openWorld, TEST_BRAND } from "../test-world";
import { addCampaign, campaign } from "./campaigns";
import { editionsView } from "./editions";
import { type ExportFormat, exportCampaign } from "./export";
import { sendProof } from "./proofs";
import { campaignAs, campaignPicture, draftNumbers, whoReads } from "./rendering";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addContacts(septima, [
    { email: "ines@mail.example", fields: { first_name: "Ines", language: "de" } },
    { email: "maud@mail.example", fields: {} },
  ]);
});
afterAll(() => close());

const FORMATS: readonly ExportFormat[] = ["html", "txt", "eml", "zip", "json"];

/** Whatever looks at a campaign, one after the other; nothing but what a person can mend may be thrown. */
async function lookAt(email: Email, readers: Selection): Promise<string> {
  const id = await addCampaign(septima, { name: "Brought", series: "", email, readers });
  const kept = await campaign(septima, id);
  const looks: [string, () => Promise<unknown>][] = [
    ["composer", () => whoReads(septima, kept.email, kept.readers, [{ key: "first_name" }], id)],
    ["preview", () => campaignAs(septima, id)],
    ["preview as somebody", () => campaignAs(septima, id, 1)],
    ["picture", () => campaignPicture(septima, id)],
    ["editions", () => editionsView(septima, id)],
    ["numbers", () => draftNumbers(septima, kept)],
    ["codes", () => codesMissing(septima, id)],
    ["sheet", () => sheetNumbers(septima, id)],
    ["proof", () => sendProof(septima, id, { to: "me@mail.example", contactId: 1, note: "" })],
    ...FORMATS.map((format): [string, () => Promise<unknown>] => [
      format,
      () => exportCampaign(septima, id, format, 1),
    ]),
  ];
  for (const [what, look] of looks)
    await look().catch((error: unknown) => {
      // Readers who cannot be worked out are answered with the rule's own sentence.
      const said = error instanceof Refusal || (what === "editions" && error instanceof RuleError);
      if (!said) throw new Error(`${what} throws`, { cause: error });
    });
  return (await findingsOf(septima, id)).map(({ text }) => text).join("\n");
}

const everyone = { include: [{ kind: "everyone" as const, id: "" }], exclude: [] };

test("the demo's designs in a workspace where nothing of it is", async () => {
  let next = 0;
  const world: Kit = {
    newId: () => `node-${next++}`,
    brand: TEST_BRAND,
    picture: () => ({ path: "/pictures/gone.png", width: 600, height: 300 }) as never,
    feed: "gone",
    shop: "gone",
  };
  for (const make of [draftLetter, bulbLetter, workshopLetter]) {
    const said = await lookAt(make(world), everyone);
    if (make === draftLetter) {
      expect(said).toContain("cannot be answered: The segment “members” no longer exists");
      expect(said).toContain("asks for the batch of codes");
      expect(said).toContain("asks for the lookup “branch_contact");
      expect(said).toContain("filled from a source that is not there");
    }
  }
});

const rule: fc.Arbitrary<Rule> = fc.constantFrom<Rule>(
  { kind: "segment", segment: "gone", in: true },
  { kind: "segment", segment: "gone", in: false },
  { kind: "list", list: "gone", in: false },
  { kind: "standing", group: "gone", in: true },
  { kind: "field", field: "gone", op: "known" },
  { kind: "field", field: "gone.fact", op: "is", value: "x" },
  { kind: "none", of: [{ kind: "segment", segment: "gone", in: true }] },
  {
    kind: "did",
    what: "clicked",
    campaign: "gone",
    link: "https://gone.example/",
    often: "atLeast",
    times: 1,
  },
);
const tag = fc
  .record({
    field: fc.constantFrom("gone", "gone.fact", "lookup.gone", "lookup.gone.part", "code.gone", "brand.gone"),
    fallback: fc.constantFrom("", "x"),
    format: fc.constantFrom("asIs", "longDate", "money", "list"),
  })
  .map((attrs): Inline => ({ type: "mergeTag", attrs: MergeTagSchema.parse(attrs) }));
const either = rule.chain((when) =>
  tag.map((it): Inline => ({ type: "either", attrs: { cases: [{ when, words: [it] }], otherwise: [it] } })),
);
const group = fc.constantFrom(
  { kind: "everyone" as const, id: "" },
  { kind: "list" as const, id: "gone" },
  { kind: "segment" as const, id: "gone" },
  { kind: "standing" as const, id: "gone" },
);

test("any design with any of it gone, for any readers that are gone", { timeout: 120_000 }, async () => {
  const blocks = fc.record({
    show: fc.option(rule, { nil: undefined }),
    line: fc.array(fc.oneof(tag, either), { maxLength: 2 }),
    source: fc.boolean(),
    href: fc.constantFrom("https://s.example/{$gone}", "{$lookup.gone.address}", "https://s.example/"),
    clipping: fc.boolean(),
  });
  await fc.assert(
    fc.asyncProperty(
      blocks,
      fc.array(group, { minLength: 1, maxLength: 2 }),
      fc.array(group, { maxLength: 1 }),
      async ({ show, line, source, href, clipping }, include, exclude) => {
        const words = richText("");
        words.content = [{ type: "paragraph", content: [{ type: "text", text: "a " }, ...line] }] as never;
        const made: Block[] = [
          { ...createBlock("text", "t"), content: words, ...(show && { show }) },
          { ...createBlock("button", "b"), href },
          { ...createBlock("image", "i"), src: "{$lookup.gone.picture}", alt: "{$gone else=|x|}" },
          ...(source ? [{ ...createBlock("picks", "a"), source: "gone" } as Block] : []),
          createBlock("footer", "f") as Block,
        ];
        const section = {
          id: "s",
          rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: made }] }],
          ...(clipping && { clipping: "gone" }),
        };
        const email: Email = {
          schema: SCHEMA_VERSION,
          language: "en",
          theme: "gone",
          envelope: {
            subject: line.length > 0 ? line : [{ type: "text", text: "Beans" }],
            preheader: line,
            sender: { name: line, address: "{$lookup.gone.address}" },
          },
          sections: [section],
        };
        await lookAt(email, { include, exclude });
        expect(blocksOf(email).length).toBe(made.length);
      },
    ),
    { numRuns: 60 },
  );
});
