import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { changeEmail, commands, placesFor } from "~/core/compose";
import { type Block, blocksOf } from "~/core/email";
import { pictures } from "../pictures/library";
import { addPicture } from "../pictures/taking";
import type { Septima } from "../septima";
import { openWorld, saveDesign } from "../test-world";
import { setRemoved, usesOfRemovable } from "../workspace/removals";
import {
  BIN_DAYS,
  binned,
  campaign,
  campaigns,
  deleteCampaign,
  emptyBin,
  restoreCampaign,
  startCampaign,
} from "./campaigns";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

test("the bin keeps campaigns for thirty days; then they go for good, and not a day before", async () => {
  let now = Date.UTC(2026, 10, 1, 12);
  const clock = { ...septima, now: () => now };
  const [kept, gone] = [
    await startCampaign(clock, "Kept", "letter"),
    await startCampaign(clock, "Gone", "letter"),
  ];
  await deleteCampaign(clock, gone);
  expect((await campaigns(clock)).map(({ name }) => name)).toEqual(["Kept"]);
  now += (BIN_DAYS - 1) * 86_400_000;
  await deleteCampaign(clock, kept);
  expect((await binned(clock)).map(({ name }) => name)).toEqual(["Kept", "Gone"]);
  expect(await emptyBin(clock)).toBe(0);
  await restoreCampaign(clock, kept);
  now += 2 * 86_400_000;
  expect(await binned(clock)).toEqual([]);
  expect(await emptyBin(clock)).toBe(1);
  await restoreCampaign(clock, gone);
  await expect(campaign(clock, gone)).rejects.toMatchObject({ status: 404 });
  expect((await campaign(clock, kept)).name).toBe("Kept");
});

test("what is removed says by what it is used, is no longer offered, and comes back", async () => {
  const id = await startCampaign(septima, "With a picture", "letter");
  const png = await sharp({ create: { width: 40, height: 20, channels: 3, background: "#336699" } })
    .png()
    .toBuffer();
  const picture = await addPicture(septima, "blue.png", new Uint8Array(png));
  const { email } = await campaign(septima, id);
  const block = { ...createBlock("image", "pic"), src: picture.path, alt: "Blue" } as Block;
  const place = placesFor(email, { kind: "block" })[0];
  await saveDesign(
    septima,
    id,
    changeEmail(email, commands.insertBlocks([block], place, septima.newId)).email,
  );
  expect(await usesOfRemovable(septima, "picture", picture.id)).toMatchObject([
    { kind: "campaign", name: "With a picture", held: false },
  ]);
  await setRemoved(septima, "picture", picture.id, true);
  expect(await pictures(septima)).toEqual([]);
  expect(blocksOf((await campaign(septima, id)).email).some(({ src }) => src === picture.path)).toBe(true);
  await setRemoved(septima, "picture", picture.id, false);
  expect(await pictures(septima)).toHaveLength(1);
});
