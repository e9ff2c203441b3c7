/**
 * Sources: a catalogue of 100,000 lines over HTTP, read confined and stored; read again with a hundredth of its prices
 * changed; a search as somebody types over 200,000 items. In the embedded database and in a
 * PostgreSQL server. The reference for reading is the database copying the same rows without reading them.
 */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { performance } from "node:perf_hooks";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { fillMentions } from "~/server/mentions";
import type { Septima } from "~/server/septima";
import { findItems } from "~/server/sources/items";
import { addSource, refreshSource } from "~/server/sources/sources";
import { openWorld } from "~/server/test-world";
import type { Line } from "./line";

const WORDS = [
  "runner",
  "tomato",
  "trowel",
  "crimson",
  "early",
  "dwarf",
  "climbing",
  "forged",
  "linen",
  "winter",
];

function catalogue(count: number, round: number): string {
  const lines = Array.from({ length: count }, (_, n) => {
    const [a, b] = [WORDS[n % 10], WORDS[Math.floor(n / 10) % 10]];
    const price = (n % 90) + 1 + (n % 100 === round ? 0.5 : 0);
    return `${n},${a} ${b} number ${n},${price.toFixed(2)} GBP,${n % 40},Shop > ${a} > ${b},/i/${n},/p/${n}.png,"Words about ${b}, ${"and more of them ".repeat(6)}"\n`;
  });
  return `id,title,price,stock,category,link,image,description\n${lines.join("")}`;
}

const seconds = async (work: () => Promise<unknown>) => {
  const begun = performance.now();
  await work();
  return (performance.now() - begun) / 1000;
};

async function measured(septima: Septima, where: string): Promise<Line[]> {
  let body = "";
  const server = http.createServer((_request, response) => response.end(body));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const standins = { shop: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
  const world = { ...septima, config: { ...septima.config, standins } };
  try {
    body = catalogue(100_000, 0);
    const heap = () => Math.round(process.memoryUsage().heapUsed / 1e6);
    const before = heap();
    let highest = before;
    const watch = setInterval(() => {
      highest = Math.max(highest, heap());
    }, 50);
    let id = "";
    const first = await seconds(async () => {
      id = await addSource(world, "standin://shop/all.csv");
    });
    clearInterval(watch);
    body = catalogue(100_000, 1);
    const again = await seconds(() => refreshSource(world, id));
    const copied = await seconds(async () => {
      await world.db.query("create temporary table copied as select * from items");
    });
    body = catalogue(100_000, 0);
    await addSource(world, "standin://shop/more.csv");
    await world.db.script("analyze items");
    const times: number[] = [];
    for (const words of [
      "t",
      "to",
      "tom",
      "tomato",
      "tomato d",
      "tomato dwarf 9",
      "winter crimson",
      "zzz",
      "number 4217",
    ])
      for (let turn = 0; turn < 3; turn++)
        times.push(1000 * (await seconds(() => findItems(world, { words, limit: 24 }))));
    times.sort((a, b) => a - b);
    return [
      [
        `${where}: a catalogue of 100,000 lines (${Math.round(body.length / 1e6)} MB) read and stored`,
        `${first.toFixed(1)} s, ${(first / copied).toFixed(1)} × copying the rows; heap of the server +${highest - before} MB`,
        "under 30 s, memory flat",
      ],
      [`${where}: read again, 2,000 prices changed`, `${again.toFixed(1)} s`, ""],
      [
        `${where}: found as somebody types, in 200,000 items`,
        `${times[times.length >> 1].toFixed(0)} ms in the middle, ${times.at(-1)?.toFixed(0)} ms at most`,
        "under 50 ms",
      ],
    ];
  } finally {
    server.close();
  }
}

export async function sourceLines(): Promise<Line[]> {
  const { septima, close } = await openWorld();
  const lines = await measured(septima, "embedded");
  await close();
  if (serverPrograms() === null) return lines;
  const server = await startServer();
  const db = openServer(server.url);
  const other = await openWorld();
  try {
    await migrate(db, "server/db/migrations", { 17: fillMentions });
    return [...lines, ...(await measured({ ...other.septima, db, cache: new Map() }, "on a server"))];
  } finally {
    await db.close();
    await other.close();
    await server.stop();
  }
}
