import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { changeEmail, commands, placesFor } from "~/core/compose";
import { type Block, blocksOf, richText } from "~/core/email";
import { addPicture } from "../pictures/taking";
import type { Septima } from "../septima";
import { openWorld, saveDesign } from "../test-world";
import { campaign, campaigns, copyCampaign, deleteCampaign, fileCampaign, setArchived } from "./campaigns";
import { readMissingWords } from "./finding";
import { campaignPicture } from "./rendering";
import { startFromTemplate } from "./templates";

let septima: Septima;
let close: () => Promise<void>;
let letter: string;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  letter = await startFromTemplate(septima, "plain-letter", "Advent");
  await startFromTemplate(septima, "half", "Bulbs");
  await startFromTemplate(septima, "question", "Garlic");
  await fileCampaign(septima, letter, {
    name: "Advent",
    series: "Monthly letter",
    season: "winter",
    labels: "Keepsake,  keepsake , Keepsake, ",
  });
  const png = await sharp({ create: { width: 8, height: 8, channels: 3, background: "#AA3366" } })
    .png()
    .toBuffer();
  const picture = await addPicture(septima, "Old greenhouse door", png, "A door");
  let { email } = await campaign(septima, letter);
  const image = { ...createBlock("image", "door"), src: picture.path, alt: "Ajar" } as Block;
  email = changeEmail(
    email,
    commands.insert(image, "block", placesFor(email, { kind: "block" })[0], septima.newId),
  ).email;
  await saveDesign(septima, letter, email);
});
afterAll(() => close());

const found = async (query: string, archived = false) =>
  (await campaigns(septima, query, archived)).map(({ name }) => name).sort();

describe("a campaign is found by", () => {
  test.each([
    ["its name", "advent"],
    ["its series", "monthly"],
    ["its label", "keepsake"],
    ["its season", "winter"],
    ["its subject", "first frost"],
    ["words of its body", "sand shed"],
    ["the name of a picture it shows", "greenhouse door"],
    ["the alternative text of a picture", "ajar"],
    ["words from several of them", "ADVENT greenhouse sand"],
  ])("%s", async (_what, query) => expect(await found(query)).toEqual(["Advent"]));

  test("a link", async () => expect(await found("tansyrow.example/bulbs")).toEqual(["Bulbs"]));
  test("not by what is in none of it, nor by signs that SQL knows", async () => {
    expect(await found("no-such-word")).toEqual([]);
    expect(await found("%")).toEqual([]);
    expect(await found("_________")).toEqual([]);
    expect(await found("'; drop table campaigns; --")).toEqual([]);
    expect(await found("")).toEqual(["Advent", "Bulbs", "Garlic"]);
  });
});

test("the very name comes first, and whatever else is found says by what", async () => {
  const lines = async (query: string) =>
    (await campaigns(septima, query)).map(({ name, why }) => [name, why]);
  const others = ["Garlic, once more", "About garlic"];
  for (const name of others) await startFromTemplate(septima, "plain-letter", name);
  expect((await lines("garlic")).slice(0, 3).map(([name]) => name)).toEqual(["Garlic", ...others]);
  expect((await lines("garlic"))[0]).toEqual(["Garlic", null]);
  expect(await lines("monthly")).toEqual([["Advent", "In the series “Monthly letter”"]]);
  expect(await lines("keepsake")).toEqual([["Advent", "Labelled “Keepsake”"]]);
  expect(await lines("greenhouse door")).toEqual([["Advent", "Shows a picture called “greenhouse”"]]);
  const [[, why]] = await lines("ajar");
  expect(why).toMatch(/^Says “.*ajar.*”$/);
  for (const { id, name } of await campaigns(septima, "garlic"))
    if (others.includes(name)) await deleteCampaign(septima, id);
});

test("words that are written later are found, those that are gone are not", async () => {
  const { email } = await campaign(septima, letter);
  const text = blocksOf(email).find(({ type }) => type === "text") as Block;
  await saveDesign(
    septima,
    letter,
    changeEmail(email, commands.set(text.id, { content: richText("Hellebores") })).email,
  );
  expect(await found("hellebores")).toEqual(["Advent"]);
  expect(await found("sand shed")).toEqual([]);
});

test("labels are kept once each, without spaces around them", async () => {
  const [line] = (await campaigns(septima)).filter(({ id }) => id === letter);
  expect(line.labels).toEqual(["Keepsake", "keepsake"]);
  await expect(
    fileCampaign(septima, letter, { name: " ", series: "", season: "", labels: "" }),
  ).rejects.toThrow("name");
});

test("what is archived is found only where one asks for it", async () => {
  const id = await copyCampaign(septima, letter);
  await setArchived(septima, id, true);
  expect(await found("advent")).toEqual(["Advent"]);
  expect(await found("advent", true)).toEqual(["Advent (copy)"]);
  await setArchived(septima, id, false);
  expect(await found("advent")).toEqual(["Advent", "Advent (copy)"]);
});

test("designs that were kept before words were are read at the start", async () => {
  await septima.db.query("update campaigns set words = null");
  expect(await found("garlic do")).toEqual([]);
  await readMissingWords(septima);
  expect(await found("garlic do")).toEqual(["Garlic"]);
});

test("a small picture is made once for a revision, and anew for the next", async () => {
  const made = () =>
    septima.db.query<{ key: string }>("select key from looks where campaign_id = $1", [letter]);
  const first = await campaignPicture(septima, letter);
  const [{ key }] = await made();
  await septima.db.query("update looks set html = 'kept' where campaign_id = $1", [letter]);
  expect((await campaignPicture(septima, letter)).html).toBe("kept");
  const { email } = await campaign(septima, letter);
  await saveDesign(
    septima,
    letter,
    changeEmail(email, commands.setEnvelope({ preheader: [{ type: "text", text: "Anew" }] })).email,
  );
  expect((await campaignPicture(septima, letter)).html).toContain("Anew");
  expect((await made())[0].key).not.toBe(key);
  expect(first.html).not.toContain("Anew");
});
