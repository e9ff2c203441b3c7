/** The embedded database in its thread, against the same in this one. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openApart } from "./apart";
import type { Database } from "./database";
import { openEmbedded } from "./embedded";
import { THREAD } from "./test-thread";

let folder: string;
let apart: Database;
let here: Database;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-apart-"));
  apart = await openApart(THREAD, path.join(folder, "db"));
  here = await openEmbedded();
  for (const db of [apart, here])
    await db.script(
      "create table it (n int primary key, text text, at timestamptz, big int8, json jsonb, octets bytea)",
    );
});
afterAll(async () => {
  await here.close();
  await apart.close();
  await rm(folder, { recursive: true, force: true });
});

test("values of every kind go in and come back as they do without a thread", async () => {
  const values = [
    1,
    "“é” 🌱 '",
    new Date("2026-02-28T10:11:12Z"),
    2 ** 40,
    JSON.stringify({ a: [1, null] }),
    Buffer.from([0, 255]),
  ];
  for (const db of [apart, here])
    await db.query("insert into it values ($1, $2, $3, $4, $5::jsonb, $6)", values);
  const sql =
    "select *, array[1, 2] as list, null as nothing, 1.5::numeric as exact from it where n = any ($1::int[])";
  expect(await apart.query(sql, [[1]])).toEqual(await here.query(sql, [[1]]));
});

test("errors are those of the database; a transaction that throws leaves nothing, one that ends well all", async () => {
  const broken = () => apart.query("insert into it (n) values (1)");
  await expect(broken()).rejects.toMatchObject({
    code: "23505",
    message: expect.stringContaining("duplicate"),
  });
  await expect(
    apart.transaction(async (tx) => {
      await tx.query("insert into it (n) values (2)");
      throw new Error("changed my mind");
    }),
  ).rejects.toThrow("changed my mind");
  await expect(
    apart.transaction(async (tx) => {
      await tx.query("insert into it (n) values (3)");
      await tx.query("insert into it (n) values (3)");
    }),
  ).rejects.toMatchObject({ code: "23505" });
  const given = await apart.transaction(async (tx) => {
    await tx.script("insert into it (n) values (4); insert into it (n) values (5)");
    return tx.query("select count(*)::int as count from it");
  });
  expect(given).toEqual([{ count: 3 }]);
  expect(await apart.query("select n from it order by n")).toEqual([{ n: 1 }, { n: 4 }, { n: 5 }]);
});

test("transactions at once have their turns, and statements beside them wait", async () => {
  await apart.script("create table turns (n int)");
  await Promise.all(
    Array.from({ length: 20 }, (_, n) =>
      n % 2 === 0
        ? apart.query("insert into turns values ($1)", [n])
        : apart.transaction(async (tx) => {
            const [{ count }] = await tx.query<{ count: number }>("select count(*)::int as count from turns");
            await tx.query("insert into turns values ($1)", [n]);
            const [after] = await tx.query<{ count: number }>("select count(*)::int as count from turns");
            expect(after.count).toBe(count + 1);
          }),
    ),
  );
  expect(await apart.query("select count(*)::int as count from turns")).toEqual([{ count: 20 }]);
});

test("while it is at something long, this thread goes on", async () => {
  const slow =
    "select count(*)::int as count from generate_series(1, 400000) n where md5(n::text) like '%a%'";
  const turns = async (db: Database) => {
    let count = 0;
    const timer = setInterval(() => count++, 2);
    await db.query(slow);
    clearInterval(timer);
    return count;
  };
  const [alone, beside] = [await turns(here), await turns(apart)];
  expect(alone).toBeLessThan(5);
  expect(beside).toBeGreaterThan(20);
});

test("one that has ended says so, whatever it is asked", async () => {
  const one = await openApart(THREAD, path.join(folder, "other"));
  await one.close();
  await expect(one.query("select 1")).rejects.toThrow("has ended");
  await writeFile(path.join(folder, "no-folder"), "");
  await expect(openApart(THREAD, path.join(folder, "no-folder", "db"))).rejects.toThrow();
});
