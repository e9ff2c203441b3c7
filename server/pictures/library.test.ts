import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { blankEmail, LAYOUTS } from "~/core/compose";
import { type Block, blocksOf, type Email, type Lookup } from "~/core/email";
import { newStep, type PictureStep } from "~/core/pictures";
import { addCampaign, campaign } from "../campaigns/campaigns";
import { finishCarrying } from "../campaigns/carrying";
import { addClipping } from "../campaigns/clippings";
import { savedDesign } from "../campaigns/saving";
import type { Septima } from "../septima";
import { addOrder, openWorld, saveDesign } from "../test-world";
import { lookupsOf, saveLookup } from "../workspace/lookups";
import { setRemoved } from "../workspace/removals";
import { brandOf, setBrand } from "../workspace/settings";
import { savePictureCopy, savePictureOver, showEverywhere, tryPicture } from "./editing";
import { pictureFile } from "./files";
import { scene } from "./fixtures";
import {
  filePictures,
  findPictures,
  PictureQuerySchema,
  picture,
  pictureDetail,
  pictureFiling,
} from "./library";
import { addPicture } from "./taking";
import { usesOfPicture } from "./uses";
import { pictureWeights } from "./weights";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

let made = 0;
/** A picture that is like no other. */
const fresh = async (name: string, width = 900 + made) =>
  addPicture(
    world.septima,
    name,
    await scene(width, 300 + made++)
      .jpeg()
      .toBuffer(),
  );
const find = async (query: object) =>
  (await findPictures(world.septima, PictureQuerySchema.parse(query))).pictures.map(({ name }) => name);
const mono: PictureStep = { ...newStep("light", "grey"), saturation: -100 };

function showing(src: string, width = 900, height = 300): Email {
  const email = blankEmail(LAYOUTS[0], { name: "A", address: "a@a.example" }, "", world.septima.newId);
  const block = {
    ...createBlock("image", world.septima.newId()),
    src,
    alt: "A bed",
    natural: { width, height },
  };
  email.sections[0].rows[0].columns[0].blocks.unshift(block as Block);
  return email;
}
const srcOf = (email: Email) => blocksOf(email).find((block) => block.type === "image")?.src;

test("pictures are found by name, what they show, label and folder, and counted", async () => {
  const [one, two] = [await fresh("Leeks by the wall.jpg"), await fresh("Cold frame.jpg")];
  await filePictures(world.septima, [one.id], { alt: "Tall green stems", labels: "Winter, beds, Winter" });
  await filePictures(world.septima, [two.id], { folder: "Spring 2027", label: "beds" });
  expect(await find({ words: "wall" })).toEqual(["Leeks by the wall.jpg"]);
  expect(await find({ words: "green STEMS" })).toEqual(["Leeks by the wall.jpg"]);
  expect(await find({ words: "100%_" })).toEqual([]);
  expect((await find({ label: "beds" })).sort()).toEqual(["Cold frame.jpg", "Leeks by the wall.jpg"]);
  expect(await find({ label: "beds", folder: "Spring 2027" })).toEqual(["Cold frame.jpg"]);
  expect(await find({ words: "spring" })).toEqual(["Cold frame.jpg"]);
  const filing = await pictureFiling(world.septima);
  expect(filing.folders).toEqual([{ name: "Spring 2027", count: 1 }]);
  expect(filing.labels).toEqual([
    { name: "beds", count: 2 },
    { name: "Winter", count: 1 },
  ]);
  await filePictures(world.septima, [one.id, two.id], { unlabel: "beds" });
  expect(await find({ label: "beds" })).toEqual([]);
  expect(await find({ order: "name", count: 1 })).toEqual(["Cold frame.jpg"]);
  expect(await find({ order: "name", count: 1, from: 1 })).toEqual(["Leeks by the wall.jpg"]);
});

test("what is put away is not offered or counted, stays what it is where it is used, and comes back", async () => {
  const { septima } = world;
  const [kept, away] = [await fresh("Kept hedge.jpg"), await fresh("Old hedge.jpg")];
  await filePictures(septima, [kept.id, away.id], { folder: "Hedges", label: "hedges" });
  const before = await pictureFiling(septima);
  const design = showing(away.path);
  const id = await addCampaign(septima, { series: "", name: "Hedges", email: design });
  await filePictures(septima, [away.id], { archived: true });
  for (const query of [{ words: "hedge" }, { folder: "Hedges" }, { label: "hedges" }, { which: "recent" }])
    expect(await find(query)).not.toContain("Old hedge.jpg");
  expect(await find({ words: "hedge" })).toEqual(["Kept hedge.jpg"]);
  expect(await find({ which: "archived" })).toEqual(["Old hedge.jpg"]);
  expect(await find({ which: "archived", words: "kept" })).toEqual([]);
  const filing = await pictureFiling(septima);
  expect(filing).toMatchObject({ all: before.all - 1, archived: 1 });
  expect(filing.folders.find(({ name }) => name === "Hedges")?.count).toBe(1);
  expect(filing.labels.find(({ name }) => name === "hedges")?.count).toBe(1);
  expect(await picture(septima, away.id)).toMatchObject({ archived: true, path: away.path });
  expect((await usesOfPicture(septima, away.id)).map((use) => use.id)).toEqual([id]);
  expect(await pictureFile(septima, away.path.replace("/pictures/", ""))).toBeTruthy();
  // Whatever else is said of it does not bring it back; only who asks for that does.
  await filePictures(septima, [away.id], { alt: "A hedge" });
  expect(await find({ which: "archived" })).toEqual(["Old hedge.jpg"]);
  await filePictures(septima, [away.id], { archived: false });
  expect(await pictureFiling(septima)).toEqual(before);
  expect((await find({ words: "hedge" })).sort()).toEqual(["Kept hedge.jpg", "Old hedge.jpg"]);
});

test("saving over reaches every use that was not sent, and no other; all of it can be had back", async () => {
  const { septima } = world;
  const bed = await fresh("Bed.jpg", 1400);
  const before = bed.path;
  const draft = await addCampaign(septima, { series: "", name: "Draft", email: showing(before) });
  const mine = await addCampaign(septima, { series: "", name: "Open here", email: showing(before) });
  const template = await addCampaign(septima, { series: "", name: "Template", email: showing(before) });
  await septima.db.query("update campaigns set kind = 'template' where id = $1", [template]);
  const [scheduled, sent] = [
    await addCampaign(septima, { series: "", name: "Waiting", email: showing(before) }),
    await addCampaign(septima, { series: "", name: "Gone", email: showing(before) }),
  ];
  for (const [id, state] of [
    [scheduled, "scheduled"],
    [sent, "sent"],
  ] as const)
    await addOrder(septima, id, state);
  const html = `<p>By hand: <img src="https://septima.example${before}" alt=""></p>`;
  const code = showing("");
  code.sections[0].rows[0].columns[0].blocks[0] = { ...createBlock("code", "code"), html } as Block;
  const byHand = await addCampaign(septima, { series: "", name: "By hand", email: code });
  const [node] = blocksOf(showing(before)).filter((block) => block.type === "image");
  const { id: clipping } = await addClipping(septima, "Bed", "block", node);
  await setBrand(septima, { ...(await brandOf(septima)), logo: { src: before, width: 1400, height: 300 } });
  const person: Lookup = {
    key: "writer",
    name: "Letter writer",
    kind: "person",
    cases: [],
    otherwise: { name: "Petra", portrait: before },
  };
  await saveLookup(septima, person, null);
  const names = (await usesOfPicture(septima, bed.id)).map(({ kind, name, sent: gone }) => [
    kind,
    name,
    gone,
  ]);
  expect(names).toContainEqual(["campaign", "Gone", true]);
  expect(names).toHaveLength(9);

  const crop: PictureStep = { ...newStep("crop", "cut"), width: 0.5 };
  const saved = await savePictureOver(septima, bed.id, [crop, mono], { except: mine });
  const { path: after, width } = saved.picture;
  expect(after).not.toBe(before);
  expect(width).toBe(700);
  expect(saved.reached.map(({ name }) => name).sort()).toEqual([
    "Bed",
    "By hand",
    "Draft",
    "Letter writer",
    "Marl & Moss",
    "Template",
  ]);
  // What is scheduled stays as it was ordered, unless it is asked for.
  const waits = (await usesOfPicture(septima, bed.id)).filter((use) => use.scheduled !== null);
  expect(waits.map(({ name }) => name)).toEqual(["Waiting"]);
  expect(srcOf((await campaign(septima, scheduled)).email)).toBe(before);
  const more = await showEverywhere(septima, bed.id, { except: mine, scheduled: [scheduled] });
  expect(more.reached.map(({ name }) => name)).toContain("Waiting");
  const now = async (id: string) => (await campaign(septima, id)).email;
  for (const id of [draft, template, scheduled]) expect(srcOf(await now(id))).toBe(after);
  expect(blocksOf(await now(draft)).find((block) => block.type === "image")).toMatchObject({
    natural: { width: 700, height: saved.picture.height },
    alt: "A bed",
  });
  for (const id of [mine, sent]) expect(srcOf(await now(id))).toBe(before);
  expect(JSON.stringify(await now(byHand))).toContain(after);
  const orders = await septima.db.query<{ id: string; email: Email }>(
    "select campaign_id as id, email from dispatches",
  );
  expect(Object.fromEntries(orders.map(({ id, email }) => [id, srcOf(email)]))).toEqual({
    [scheduled]: after,
    [sent]: before,
  });
  expect((await brandOf(septima)).logo).toMatchObject({ src: after, width: 700 });
  expect((await lookupsOf(septima))[0].otherwise).toEqual({ name: "Petra", portrait: after });
  const [kept] = await septima.db.query<{ node: unknown }>("select node from clippings where id = $1", [
    clipping,
  ]);
  expect(JSON.stringify(kept.node)).toContain(after);

  // Whoever got it sees it as it was.
  const was = await sharp((await pictureFile(septima, path.basename(before))).data).metadata();
  expect(was.width).toBe(1400);
  // A window on the draft learns of it as of anybody's change, and can go back.
  const { revision } = await savedDesign(septima, draft);
  expect(revision).toBe(2);
  const detail = await pictureDetail(septima, bed.id);
  expect(detail.steps.map(({ kind }) => kind)).toEqual(["crop", "light"]);
  expect(detail.versions.map(({ steps }) => steps.length)).toEqual([2, 0]);
  const back = await savePictureOver(septima, bed.id, []);
  expect(back.picture.width).toBe(1400);
  expect(srcOf(await now(draft))).toBe(back.picture.path);
  const [whole, first] = await Promise.all(
    [back.picture.path, before].map(async (src) => (await pictureFile(septima, path.basename(src))).data),
  );
  expect(whole.equals(first)).toBe(true);
});

test("a copy is a picture of its own, and the same file taken in again is the first one", async () => {
  const { septima } = world;
  const data = await scene(777, 333).jpeg().toBuffer();
  const first = await addPicture(septima, "Path.jpg", data, "A path");
  const copy = await savePictureCopy(septima, first.id, [mono]);
  expect(copy).toMatchObject({ name: "Path, copy.jpg", alt: "A path" });
  expect(copy.path).not.toBe(first.path);
  expect((await picture(septima, first.id)).path).toBe(first.path);
  const again = await addPicture(septima, "Again.jpg", data);
  expect([again.id, again.known]).toEqual([first.id, true]);
  const { channels } = await sharp((await pictureFile(septima, path.basename(copy.path))).data).stats();
  expect(Math.abs(channels[0].mean - channels[2].mean)).toBeLessThan(1);
});

test("unused are those that no design, clipping or brand names, whichever version it names", async () => {
  const { septima } = world;
  const [used, unused] = [await fresh("Used.jpg"), await fresh("Nowhere.jpg")];
  const id = await addCampaign(septima, { series: "", name: "Uses it", email: showing(used.path) });
  expect(await find({ which: "unused" })).toContain("Nowhere.jpg");
  expect(await find({ which: "unused" })).not.toContain("Used.jpg");
  await saveDesign(septima, id, showing(""));
  expect(await find({ which: "unused" })).toContain("Used.jpg");
  await saveDesign(septima, id, showing(used.path));
  await savePictureOver(septima, used.id, [mono], { except: id });
  expect(await find({ which: "unused" })).not.toContain("Used.jpg");
  expect((await usesOfPicture(septima, used.id)).map(({ name }) => name)).toEqual(["Uses it"]);
  await setRemoved(septima, "picture", unused.id, true);
  expect(await find({ which: "unused" })).not.toContain("Nowhere.jpg");
  expect((await pictureFile(septima, path.basename(unused.path))).data.length).toBeGreaterThan(0);
});

test("what a message’s pictures weigh is what mail programs fetch, and a trial leaves nothing behind", async () => {
  const { septima } = world;
  const large = await addPicture(
    septima,
    "Large.jpg",
    await scene(1400, 900).jpeg({ quality: 95 }).toBuffer(),
  );
  const email = showing(large.path, 1400, 900);
  const [image] = email.sections[0].rows[0].columns[0].blocks;
  Object.assign(image, { width: 50 });
  const id = await addCampaign(septima, { series: "", name: "Heavy", email });
  const weights = await pictureWeights(septima, id);
  const [one] = weights.pictures;
  expect(one).toMatchObject({
    name: "Large.jpg",
    type: "image/jpeg",
    picture: { id: large.id, src: large.path },
  });
  const width = Number(one.address.split("/").at(-1));
  expect(width).toBeGreaterThanOrEqual(2 * (one.shown ?? 0));
  const fetched = await pictureFile(septima, path.basename(large.path), width);
  expect(one.bytes).toBe(fetched.data.length);
  expect(weights.total).toBe(weights.pictures.reduce((sum, { bytes }) => sum + (bytes ?? 0), 0));
  const lighter = { ...newStep("lighter", "l"), quality: 30 };
  const tried = await tryPicture(septima, large, [lighter], width);
  expect(tried.data.length).toBeLessThan(fetched.data.length);
  expect((await pictureDetail(septima, large.id)).versions).toHaveLength(1);
});

test("a picture that was saved over when the process was killed is shown by everything after the next start", async () => {
  const { septima } = world;
  const bed = await fresh("Killed.jpg", 1200);
  const drafts = await Promise.all(
    ["A", "B", "C"].map((name) => addCampaign(septima, { series: "", name, email: showing(bed.path) })),
  );
  let left = 2;
  const killed = () => Promise.reject(new Error("killed"));
  const dying = {
    ...septima,
    db: {
      ...septima.db,
      query: (sql: string, params?: readonly unknown[]) =>
        left < 0 ? killed() : septima.db.query(sql, params),
      transaction: ((work) =>
        --left < 0 ? killed() : septima.db.transaction(work)) as typeof septima.db.transaction,
    },
  } as typeof septima;
  await expect(savePictureOver(dying, bed.id, [mono])).rejects.toThrow("killed");
  const now = (await picture(septima, bed.id)).path;
  expect(now).not.toBe(bed.path);
  const shown = () => Promise.all(drafts.map(async (id) => srcOf((await campaign(septima, id)).email)));
  expect(new Set(await shown()).size).toBe(2);
  const none = () => Promise.resolve();
  const carriers = {
    clipping: none,
    template: none,
    picture: (at: Septima, { picture: id, scheduled }: { picture: string; scheduled?: string[] }) =>
      showEverywhere(at, id, { scheduled }),
  };
  await finishCarrying(septima, carriers, true);
  expect(await shown()).toEqual([now, now, now]);
});
