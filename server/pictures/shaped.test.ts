/** Pictures of items, cut to a shape: around the focus of ours, around what catches the eye of a source’s. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { newStep, shapedAddress, shapedBox } from "~/core/pictures";
import type { Septima } from "../septima";
import { addSource } from "../sources/sources";
import { openWorld } from "../test-world";
import { savePictureOver } from "./editing";
import { shapedFile } from "./shaped";
import { addPicture } from "./taking";

let world: Awaited<ReturnType<typeof openWorld>>;
let septima: Septima;
let server: http.Server;
let source: string;
let asked = 0;

/** Red at the left, green in the middle, blue at the right. */
const flag = (width = 900, height = 300) =>
  sharp({ create: { width, height, channels: 3, background: "#00FF00" } })
    .composite([
      {
        input: { create: { width: width / 3, height, channels: 3, background: "#FF0000" } },
        left: 0,
        top: 0,
      },
      {
        input: { create: { width: width / 3, height, channels: 3, background: "#0000FF" } },
        left: (width / 3) * 2,
        top: 0,
      },
    ])
    .png();

beforeAll(async () => {
  world = await openWorld();
  server = http.createServer(async (request, response) => {
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    if (request.url === "/flag.png") {
      asked++;
      response.setHeader("content-type", "image/png").end(await flag().toBuffer());
    } else if (request.url === "/nothing.png") {
      asked++;
      response.writeHead(404).end();
    } else if (request.url === "/half.png") response.end((await flag().toBuffer()).subarray(0, 600));
    else if (request.url === "/drawn.svg")
      response.end(
        '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="30"><rect width="90" height="30" fill="#00f"/></svg>',
      );
    else if (request.url === "/goods.csv")
      response.end(
        `sku,title,picture\na/1?,Flag,${base}/flag.png\nb,Broken,${base}/nothing.png\nc,Bare,\ne,Half,${base}/half.png\nf,Drawn,${base}/drawn.svg\nd,Hall,https://hall.example/x.png`,
      );
    else response.writeHead(404).end();
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const kitchen = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  septima = { ...world.septima, config: { ...world.septima.config, standins: { kitchen } } };
  source = await addSource(septima, "standin://kitchen/goods.csv");
});
afterAll(async () => {
  server.close();
  await world.close();
});

/** The picture at an address as messages have it. */
async function at(address: string) {
  const [, ratio, width, where, id] = /^\/shaped\/([^/]+)\/(\d+)\/([^/]+)\?id=([^&]+)/.exec(address) ?? [];
  const got = await shapedFile(
    septima,
    ratio,
    Number(width),
    decodeURIComponent(where),
    decodeURIComponent(id),
  );
  if ("to" in got) return got.to;
  const { data, info } = await sharp(got.data).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const middle = ((info.height >> 1) * info.width + (info.width >> 1)) * 3;
  const [red, green, blue] = data.subarray(middle, middle + 3);
  return {
    size: [info.width, info.height],
    middle: red > 200 ? "red" : blue > 200 ? "blue" : green > 200 ? "green" : "mixed",
  };
}

test("an item’s picture has the shape that is asked for, is no wider than it was, and is fetched once", async () => {
  const picture = `http://127.0.0.1:${(server.address() as AddressInfo).port}/flag.png`;
  const before = asked;
  const square = shapedAddress({ source, id: "a/1?", picture }, "1x1", 600);
  expect(await Promise.all([at(square), at(square)])).toMatchObject([
    { size: [300, 300] },
    { size: [300, 300] },
  ]);
  expect(await at(square)).toMatchObject({ size: [300, 300] });
  expect(asked - before).toBe(1);
  const small = shapedAddress({ source, id: "a/1?", picture }, "16x9", 100);
  expect(await at(small)).toMatchObject({ size: [200, 113] });
  // Another picture of the same item has another address.
  expect(shapedAddress({ source, id: "a/1?", picture: `${picture}?2` }, "1x1", 600)).not.toBe(square);
});

test("a picture of the library is cut around its focus", async () => {
  const taken = await addPicture(septima, "flag.png", await flag().toBuffer());
  const { picture } = await savePictureOver(septima, taken.id, [
    { ...newStep("focus", "f"), x: 0.9, y: 0.5 },
  ]);
  const address = shapedAddress({ source: "", id: "1", picture: picture.path }, "1x1", 100);
  expect(await at(address)).toEqual({ size: [200, 200], middle: "blue" });
});

test("what cannot be fetched or cut is shown from where it is; what is no item is nothing", async () => {
  const picture = `http://127.0.0.1:${(server.address() as AddressInfo).port}/nothing.png`;
  const before = asked;
  for (const _ of [1, 2])
    expect(await at(shapedAddress({ source, id: "b", picture }, "1x1", 100))).toBe(picture);
  expect(asked - before).toBe(1);
  const half = picture.replace("nothing", "half");
  expect(await at(shapedAddress({ source, id: "e", picture: half }, "1x1", 100))).toBe(half);
  const drawn = picture.replace("nothing.png", "drawn.svg");
  expect(await at(shapedAddress({ source, id: "f", picture: drawn }, "1x1", 100))).toMatchObject({
    middle: "blue",
  });
  for (const [ratio, width, id] of [
    ["1x1", 200, "c"],
    ["1x1", 200, "z"],
    ["1x1", 201, "a/1?"],
    ["9x9", 200, "a/1?"],
    ["constructor", 200, "a/1?"],
  ] as const)
    await expect(shapedFile(septima, ratio, width, source, id)).rejects.toMatchObject({ status: 404 });
  await expect(shapedFile(septima, "1x1", 200, "library", "../x.png")).rejects.toMatchObject({ status: 404 });
});

test("what is kept lies within the picture, as near to the focus as it can be", () => {
  const size = { width: 900, height: 300 };
  expect(shapedBox(size, "1x1", { x: 0, y: 0 })).toEqual({ left: 0, top: 0, width: 300, height: 300 });
  expect(shapedBox(size, "1x1", { x: 0.5, y: 0.5 })).toMatchObject({ left: 300 });
  expect(shapedBox(size, "1x1", { x: 1, y: 1 })).toMatchObject({ left: 600, top: 0 });
  expect(shapedBox({ width: 10, height: 4000 }, "16x9", { x: 0.5, y: 1 })).toEqual({
    left: 0,
    top: 3994,
    width: 10,
    height: 6,
  });
});
