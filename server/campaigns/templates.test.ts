import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { changeEmail, commands, placesFor } from "~/core/compose";
import {
  type Block,
  blocksOf,
  type Email,
  inlineText,
  type RichDoc,
  richText,
  THEMES,
  wordSigns,
} from "~/core/email";
import { TEMPLATES } from "~/core/templates";
import { pictures } from "../pictures/library";
import { addPicture } from "../pictures/taking";
import type { Septima } from "../septima";
import { addOrder, openWorld, saveDesign } from "../test-world";
import { allThemes, ownThemes, saveTheme, setThemeRemoved, themeUses } from "../workspace/themes";
import { campaign, campaigns, copyCampaign, deleteCampaign, restoreCampaign } from "./campaigns";
import { messageFor } from "./rendering";
import { takeTemplateFile, templateFile } from "./template-files";
import {
  addTemplate,
  copyTemplate,
  describeTemplate,
  keepAsTemplate,
  offerPicture,
  setFavourite,
  startFromTemplate,
  takeTemplate,
  takeTheme,
  templateDesign,
  templateFacts,
  templateOffers,
  templates,
} from "./templates";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

const FACTS = { name: "House letter", about: "ours", purpose: "tell", season: "", labels: "" } as const;
const textOf = (email: Email, at = 0) => blocksOf(email).filter(({ type }) => type === "text")[at];
const write = (email: Email, block: Block, words: string) =>
  changeEmail(email, commands.set(block.id, { content: richText(words) })).email;
const said = (email: Email, at = 0) => wordSigns(textOf(email, at).content as RichDoc);

async function offered(id: string, campaignId: string) {
  return (await templateOffers(septima, id)).find((offer) => offer.campaign === campaignId)?.changes ?? [];
}

test("a campaign from each template of ours has its words, and a sender", async () => {
  for (const { id, subject } of TEMPLATES) {
    const made = await campaign(septima, await startFromTemplate(septima, id, ""));
    expect(made.email.envelope.sender.address).toBe("letters@marlmoss.example");
    expect(inlineText(made.email.envelope.subject).slice(0, 5)).toBe(
      subject.replace(/\{[^|]*\|([^}]*)\}/g, "$1").slice(0, 5),
    );
  }
  const line = (await templates(septima)).find(({ id }) => id === "half");
  expect(line).toMatchObject({ used: 1, own: false, favourite: false });
});

test("templates are not among the campaigns, and a deleted one comes back", async () => {
  const id = await copyTemplate(septima, "half");
  expect((await campaigns(septima)).some((one) => one.id === id)).toBe(false);
  await deleteCampaign(septima, id);
  await expect(templateDesign(septima, id)).rejects.toThrow("does not exist");
  await restoreCampaign(septima, id);
  expect((await templateDesign(septima, id)).name).toBe("Shout (ours)");
  await describeTemplate(
    septima,
    id,
    templateFacts({ ...FACTS, name: "Louder", labels: "loud, loud, autumn " }),
  );
  await setFavourite(septima, id, true);
  const line = (await templates(septima)).find((one) => one.id === id);
  expect(line).toMatchObject({
    name: "Louder",
    purpose: "tell",
    labels: ["loud", "autumn"],
    favourite: true,
    own: true,
  });
  expect(line?.words).toContain("still in their crates");
  await setFavourite(septima, id, false);
  expect((await templates(septima)).find((one) => one.id === id)?.favourite).toBe(false);
  await expect(describeTemplate(septima, "half", templateFacts(FACTS))).rejects.toThrow("Make a copy");
  expect(() => templateFacts({ ...FACTS, name: " " })).toThrow("name");
});

describe("a template’s change", () => {
  async function made() {
    const id = await copyTemplate(septima, "plain-letter");
    const first = await startFromTemplate(septima, id, "First");
    const second = await startFromTemplate(septima, id, "Second");
    return { id, first, second };
  }

  test("is offered to the unsent campaigns made from it, and taken by one", async () => {
    const { id, first, second } = await made();
    expect(await templateOffers(septima, id)).toEqual([]);
    const { email } = await templateDesign(septima, id);
    await saveDesign(septima, id, write(email, textOf(email), "Corrected"));
    const changes = await offered(id, first);
    expect(changes).toMatchObject([{ what: "changed", fits: "wholly", words: { after: "Corrected" } }]);
    // It is shown before it is done, with what was chosen and without.
    const shown = async (...parts: string[]) => (await offerPicture(septima, id, first, parts)).html;
    expect(await shown()).not.toContain("Corrected");
    expect(await shown(changes[0].id)).toContain("Corrected");
    expect(said((await campaign(septima, first)).email)).not.toBe("Corrected");
    await takeTemplate(
      septima,
      id,
      first,
      changes.map((change) => change.id),
    );
    expect(said((await campaign(septima, first)).email)).toBe("Corrected");
    expect(said((await campaign(septima, second)).email)).not.toBe("Corrected");
    expect((await templateOffers(septima, id)).map((offer) => offer.campaign)).toEqual([second]);
    await takeTemplate(septima, id, second, []);
    expect(await templateOffers(septima, id)).toEqual([]);
    expect(said((await campaign(septima, second)).email)).not.toBe("Corrected");
  });

  test("keeps what was filled in, in another place too", async () => {
    const { id, first } = await made();
    const draft = (await campaign(septima, first)).email;
    await saveDesign(septima, first, write(draft, textOf(draft), "My own"));
    const { email } = await templateDesign(septima, id);
    const corrected = write(write(email, textOf(email), "Corrected"), textOf(email, 1), "Corrected, too");
    await saveDesign(septima, id, corrected);
    const changes = await offered(id, first);
    expect(changes.map(({ fits }) => fits)).toEqual(["not", "wholly"]);
    await takeTemplate(
      septima,
      id,
      first,
      changes.map((change) => change.id),
    );
    const after = (await campaign(septima, first)).email;
    expect([said(after), said(after, 1)]).toEqual(["My own", "Corrected, too"]);
  });

  test.each(["scheduled", "sent"] as const)("never reaches what is %s", async (state) => {
    const { id, first } = await made();
    await addOrder(septima, first, state);
    const before = (await campaign(septima, first)).email;
    const { email } = await templateDesign(septima, id);
    await saveDesign(septima, id, write(email, textOf(email), "Corrected"));
    expect(await offered(id, first)).toEqual([]);
    await expect(takeTemplate(septima, id, first, [textOf(email).id])).rejects.toThrow("stays as it is");
    expect((await campaign(septima, first)).email).toEqual(before);
  });

  test("is not done to a campaign that was made from another one", async () => {
    const { id } = await made();
    const other = await startFromTemplate(septima, "half", "Other");
    await expect(takeTemplate(septima, id, other, [])).rejects.toThrow("not made from this template");
  });

  test("is offered to the campaign that it was kept from", async () => {
    const from = await startFromTemplate(septima, "question", "Asked");
    await septima.db.query("update campaigns set template = null, template_email = null where id = $1", [
      from,
    ]);
    const { email } = await campaign(septima, from);
    const id = await keepAsTemplate(septima, from, templateFacts(FACTS), email);
    await saveDesign(septima, id, write(email, textOf(email, 1), "Corrected"));
    expect(await offered(id, from)).toHaveLength(1);
  });
});

describe("a theme of one’s own", () => {
  const [plain] = THEMES;
  const yellow = { ...plain.light, paper: "#FFF3C4" };

  test("is kept under a name; each change is a version, and designs keep theirs until they take it", async () => {
    const first = await saveTheme(septima, { ...plain, name: "House" }, null);
    const draft = await startFromTemplate(septima, "half", "In house", first.id);
    const sent = await startFromTemplate(septima, "half", "Sent in house", first.id);
    await addOrder(septima, sent, "sent");
    const second = await saveTheme(septima, { ...first, light: yellow }, first.id);
    expect((await ownThemes(septima)).map(({ theme }) => theme.id)).toEqual([second.id]);
    expect((await allThemes(septima)).map(({ id }) => id)).toContain(first.id);
    const uses = await themeUses(septima, second.id);
    expect(uses).toEqual([
      expect.objectContaining({ id: draft, keys: [first.id], held: false }),
      expect.objectContaining({ id: sent, keys: [first.id], held: true }),
    ]);
    const someone = { id: 1, email: "a@b.example", fields: {}, lists: [] };
    const html = async (id: string) =>
      (await messageFor(septima, (await campaign(septima, id)).email, someone)).html;
    expect(await html(draft)).not.toContain("#FFF3C4");
    expect(await takeTheme(septima, second.id, [draft, sent])).toBe(1);
    expect(await html(draft)).toContain("#FFF3C4");
    expect(await html(sent)).not.toContain("#FFF3C4");
  });

  test("cannot have the name of another, nor none", async () => {
    await expect(saveTheme(septima, { ...plain, name: "kitchen GARDEN" }, null)).rejects.toThrow("already");
    await expect(saveTheme(septima, { ...plain, name: "  " }, null)).rejects.toThrow("name");
  });

  test("that is deleted is not offered any more, stays where it is used, and comes back", async () => {
    const theme = await saveTheme(septima, { ...plain, name: "Short-lived", light: yellow }, null);
    const draft = await startFromTemplate(septima, "half", "Uses it", theme.id);
    await setThemeRemoved(septima, theme.id, true);
    expect((await ownThemes(septima)).some((own) => own.theme.id === theme.id)).toBe(false);
    const someone = { id: 1, email: "a@b.example", fields: {}, lists: [] };
    expect((await messageFor(septima, (await campaign(septima, draft)).email, someone)).html).toContain(
      "#FFF3C4",
    );
    await expect(saveTheme(septima, theme, theme.id)).rejects.toThrow("deleted");
    await setThemeRemoved(septima, theme.id, false);
    expect((await ownThemes(septima)).some((own) => own.theme.id === theme.id)).toBe(true);
  });

  test("saved twice at once makes two versions", async () => {
    const theme = await saveTheme(septima, { ...plain, name: "Twice" }, null);
    const both = await Promise.all([
      saveTheme(septima, theme, theme.id),
      saveTheme(septima, theme, theme.id),
    ]);
    expect(new Set(both.map(({ id }) => id)).size).toBe(2);
  });
});

describe("a template as a file", () => {
  test("comes back with its pictures and its theme", async () => {
    const png = await sharp({ create: { width: 40, height: 20, channels: 3, background: "#AA3366" } })
      .png()
      .toBuffer();
    const picture = await addPicture(septima, "Bed", png, "A bed");
    const theme = await saveTheme(septima, { ...THEMES[0], name: "Packed", width: 620 }, null);
    let { email } = await templateDesign(septima, "plain-letter");
    const place = placesFor(email, { kind: "block" })[0];
    const image = { ...createBlock("image", "picture"), src: picture.path, alt: "A bed" } as Block;
    email = changeEmail(email, commands.insert(image, "block", place, septima.newId)).email;
    const id = await addTemplate(septima, templateFacts(FACTS), { ...email, theme: theme.id });
    const { name, json } = await templateFile(septima, id);
    expect(name).toBe("House letter.json");

    const other = await openWorld();
    try {
      const taken = await takeTemplateFile(other.septima, name, json);
      const back = await templateDesign(other.septima, taken);
      const [kept] = await pictures(other.septima);
      expect(kept).toMatchObject({ name: "Bed", alt: "A bed", width: 40, height: 20 });
      expect(blocksOf(back.email).find((block) => block.id === "picture")?.src).toBe(kept.path);
      const [own] = await ownThemes(other.septima);
      expect(own.theme).toMatchObject({ name: "Packed", width: 620 });
      expect(back.email.theme).toBe(own.theme.id);
      // Once more, and neither the picture nor the theme is there twice.
      await takeTemplateFile(other.septima, name, json);
      expect(await ownThemes(other.septima)).toHaveLength(1);
      expect(await pictures(other.septima)).toHaveLength(1);
    } finally {
      await other.close();
    }
  });

  test.each([
    ["no JSON", "hello", "not a template that was kept as a file"],
    ["other JSON", "{}", "not as it should be"],
    [
      "a broken design",
      JSON.stringify({
        septimaTemplate: 2,
        ...FACTS,
        labels: [],
        theme: null,
        pictures: {},
        email: { schema: 2 },
      }),
      "its design cannot be read",
    ],
  ])("that is %s is refused with the reason, and nothing is there", async (_what, text, why) => {
    const before = (await templates(septima)).length;
    await expect(takeTemplateFile(septima, "x.json", text)).rejects.toThrow(why);
    expect((await templates(septima)).length).toBe(before);
  });
});

test("a copy of a campaign has nothing to do with the template’s changes unless it was made from it", async () => {
  const from = await startFromTemplate(septima, "half", "Made");
  const copy = await copyCampaign(septima, from);
  expect((await campaign(septima, copy)).email).toEqual((await campaign(septima, from)).email);
});
