import { afterAll, beforeAll, expect, test } from "vitest";
import { changeEmail, keptPart, linkedParts, linkTo } from "~/core/compose";
import {
  blocksOf,
  type Email,
  findNode,
  type Located,
  type RichDoc,
  richText,
  wordSigns,
} from "~/core/email";
import { usesOf } from "../mentions";
import { showEverywhere } from "../pictures/editing";
import type { Septima } from "../septima";
import { addOrder, openWorld, saveDesign } from "../test-world";
import { setRemoved } from "../workspace/removals";
import { campaign, deleteCampaign } from "./campaigns";
import { type Carriers, finishCarrying } from "./carrying";
import {
  addClipping,
  anyClipping,
  carryClipping,
  changeClipping,
  clippingFile,
  clippingPicture,
  clippings,
  fileClipping,
  takeClippingFile,
} from "./clippings";
import { carryTemplate, takeTemplates } from "./template-offers";
import { copyTemplate, startFromTemplate, templateDesign, templateOffers } from "./templates";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

const firstText = (email: Email) =>
  blocksOf(email).find(({ type }) => type === "text") as Located["node"] & { id: string };
const said = async (id: string) => {
  const { email } = await campaign(septima, id);
  return wordSigns((firstText(email) as unknown as { content: RichDoc }).content);
};

/** A clipping made of the first text of a letter, linked in campaigns of that letter. */
async function linkedInThree() {
  const first = await startFromTemplate(septima, "plain-letter", "First");
  const { email } = await campaign(septima, first);
  const { id } = firstText(email);
  const kept = keptPart(findNode(email, id) as Located);
  const clipping = await addClipping(septima, "Opening", kept.part, kept.node);
  const designs = [
    first,
    await startFromTemplate(septima, "plain-letter", "Second"),
    await startFromTemplate(septima, "plain-letter", "Third"),
  ];
  for (const design of designs)
    await saveDesign(
      septima,
      design,
      changeEmail((await campaign(septima, design)).email, linkTo(id, clipping)).email,
    );
  return { clipping, designs, id };
}

test("a change reaches every unsent design that holds it, and nothing that is booked, sent or loose", async () => {
  const { clipping, designs, id } = await linkedInThree();
  const [first, second, third] = designs;
  await addOrder(septima, second, "scheduled");
  const loose = (await campaign(septima, third)).email;
  const { clipping: _link, ...node } = firstText(loose) as unknown as Record<string, unknown>;
  const before = await said(third);
  await saveDesign(septima, third, {
    ...loose,
    sections: JSON.parse(JSON.stringify(loose.sections, (_key, value) => (value?.id === id ? node : value))),
  });
  expect((await usesOf(septima.db, "clipping", [clipping.id])).map((use) => [use.id, use.held])).toEqual(
    expect.arrayContaining([
      [first, false],
      [second, true],
    ]),
  );
  const { changed } = await changeClipping(septima, clipping.id, {
    ...clipping.node,
    content: richText("Said anew"),
  });
  expect(changed).toBe(1);
  expect(await said(first)).toBe("Said anew");
  expect(await said(second)).toBe(before);
  expect(await said(third)).toBe(before);
  expect((await clippings(septima)).find((one) => one.id === clipping.id)).toMatchObject({
    linked: 2,
    revision: 2,
  });
});

test("a change reaches templates, too, and goes by a design that follows by itself", async () => {
  const { clipping, designs, id } = await linkedInThree();
  const template = await copyTemplate(septima, "plain-letter");
  const { email } = await campaign(septima, template);
  await saveDesign(septima, template, changeEmail(email, linkTo(id, clipping)).email);
  const before = await said(designs[0]);
  await changeClipping(
    septima,
    clipping.id,
    { ...clipping.node, content: richText("Everywhere") },
    designs[0],
  );
  expect(await said(template)).toBe("Everywhere");
  expect(await said(designs[0])).toBe(before);
  expect(await said(designs[1])).toBe("Everywhere");
  await deleteCampaign(septima, template);
  expect((await usesOf(septima.db, "clipping", [clipping.id])).map((use) => use.id)).not.toContain(template);
});

test("deleted it is gone from the shelf, designs keep what they hold, and it comes back", async () => {
  const { clipping, designs } = await linkedInThree();
  await fileClipping(septima, clipping.id, { name: " Opening, renamed ", labels: "spring, , spring, Short" });
  const before = (await campaign(septima, designs[0])).email;
  await setRemoved(septima, "clipping", clipping.id, true);
  expect((await clippings(septima)).some((one) => one.id === clipping.id)).toBe(false);
  await expect(changeClipping(septima, clipping.id, clipping.node)).rejects.toThrow("deleted");
  expect((await campaign(septima, designs[0])).email).toEqual(before);
  expect(linkedParts(before)).toHaveLength(1);
  await setRemoved(septima, "clipping", clipping.id, false);
  expect((await clippings(septima)).find((one) => one.id === clipping.id)).toMatchObject({
    name: "Opening, renamed",
    labels: ["spring", "Short"],
  });
  await expect(fileClipping(septima, clipping.id, { name: " ", labels: "" })).rejects.toThrow("name");
  await expect(setRemoved(septima, "clipping", "nothing", true)).rejects.toThrow("does not exist");
});

test("as a file it comes back as it was; another file is refused by name", async () => {
  const { clipping } = await linkedInThree();
  const { name, json } = await clippingFile(septima, clipping.id);
  expect(name).toBe("Opening.json");
  const back = await takeClippingFile(septima, name, json);
  expect(back.node).toEqual(clipping.node);
  expect(back.id).not.toBe(clipping.id);
  const ours = await clippingFile(septima, "ours-header");
  expect((await takeClippingFile(septima, ours.name, ours.json)).node).toEqual(
    (await anyClipping(septima, "ours-header")).node,
  );
  await expect(takeClippingFile(septima, "x.json", "[]")).rejects.toThrow("“x.json” cannot be brought in");
  const broken = JSON.stringify({ ...JSON.parse(json), node: { id: 1 } });
  await expect(takeClippingFile(septima, "x.json", broken)).rejects.toThrow("cannot be read");
});

test("its picture is the part in a theme, as a reader gets it", async () => {
  const { html } = await clippingPicture(septima, "ours-quote", "market");
  expect(html).toContain("carrots before my neighbour");
  expect(html).toContain("#F2C14E");
});

/** A world whose process is killed after so many transactions, each the change of a design or of a clipping. */
function killedAfter(transactions: number): Septima {
  let left = transactions;
  const killed = () => Promise.reject(new Error("killed"));
  return {
    ...septima,
    db: {
      ...septima.db,
      query: (sql, params) => (left < 0 ? killed() : septima.db.query(sql, params)),
      transaction: (work) => (--left < 0 ? killed() : septima.db.transaction(work)),
    },
  };
}

const CARRIERS: Carriers = {
  clipping: (world, { clipping }) => carryClipping(world, clipping),
  picture: (world, { picture, scheduled }) => showEverywhere(world, picture, { scheduled }),
  template: carryTemplate,
};

test("a change that was killed half way reaches the rest after the next start, each of them once", async () => {
  const { clipping, designs } = await linkedInThree();
  const node = { ...clipping.node, content: richText("After the kill") };
  await expect(changeClipping(killedAfter(2), clipping.id, node)).rejects.toThrow("killed");
  const reached = async () =>
    (await Promise.all(designs.map(said))).filter((words) => words === "After the kill");
  expect(await reached()).toHaveLength(1);
  const revisions = async () =>
    Promise.all(designs.map(async (id) => (await campaign(septima, id)).revision));
  const before = await revisions();
  // What a living process may be at is let be.
  expect(await finishCarrying(septima, CARRIERS, false)).toBe(0);
  expect(await finishCarrying(septima, CARRIERS, true)).toBe(1);
  expect(await reached()).toHaveLength(3);
  expect((await revisions()).map((now, at) => now - before[at]).sort()).toEqual([0, 1, 1]);
  expect(await finishCarrying(septima, CARRIERS, true)).toBe(0);
});

test("so does a template's offer that was taken by several, but for one that was sent since", async () => {
  const id = await copyTemplate(septima, "plain-letter");
  const made = [
    await startFromTemplate(septima, id, "One"),
    await startFromTemplate(septima, id, "Two"),
    await startFromTemplate(septima, id, "Three"),
  ];
  const { email } = await templateDesign(septima, id);
  const text = firstText(email);
  await saveDesign(septima, id, {
    ...email,
    sections: JSON.parse(JSON.stringify(email.sections), (_, it) =>
      it?.id === text.id ? { ...it, content: richText("Corrected") } : it,
    ),
  });
  const offers = await templateOffers(septima, id);
  const asked = made.map((one) => ({
    campaign: one,
    parts: offers.find((offer) => offer.campaign === one)!.changes.map((change) => change.id),
  }));
  await expect(takeTemplates(killedAfter(1), id, asked)).rejects.toThrow("killed");
  await addOrder(septima, made[2], "sent");
  expect(await finishCarrying(septima, CARRIERS, true)).toBe(1);
  expect(await Promise.all(made.map(said))).toEqual([
    "Corrected",
    "Corrected",
    expect.not.stringContaining("Corrected"),
  ]);
});
