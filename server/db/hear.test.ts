/** What is told is heard, wherever the database runs. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { openApart } from "./apart";
import { type Database, tell } from "./database";
import { openEmbedded } from "./embedded";
import { openServer } from "./postgres";
import { serverPrograms, startServer } from "./test-server";
import { THREAD } from "./test-thread";

/** Hears a channel: what came, and how to wait for it. */
async function hearing(db: Database, channel: string) {
  const heard: (string | null)[] = [];
  let wake = () => {};
  await db.hear(channel, (words) => {
    heard.push(words);
    wake();
  });
  const until = async (count: number) => {
    while (heard.length < count)
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
    return heard;
  };
  return { heard, until };
}

/** What holds for each of them. */
function heardBy(opened: () => { teller: Database; hearer: Database }) {
  test("all who hear a channel hear what is told on it, in order, and nothing of others", async () => {
    const { teller, hearer } = opened();
    const [one, two] = [await hearing(hearer, "birds"), await hearing(hearer, "birds")];
    const other = await hearing(hearer, "fish");
    for (const words of ["a", "“é” '", "c"]) await tell(teller, "birds", words);
    expect(await one.until(3)).toEqual(["a", "“é” '", "c"]);
    expect(await two.until(3)).toEqual(["a", "“é” '", "c"]);
    expect(other.heard).toEqual([]);
  });

  test("within a transaction it is told with its end, and not at all when it is rolled back", async () => {
    const { teller, hearer } = opened();
    const ear = await hearing(hearer, "deeds");
    await expect(
      teller.transaction(async (tx) => {
        await tell(tx, "deeds", "undone");
        throw new Error("no");
      }),
    ).rejects.toThrow("no");
    await teller.transaction(async (tx) => {
      await tell(tx, "deeds", "done");
      await tx.query("select 1");
      expect(ear.heard).toEqual([]);
    });
    expect(await ear.until(1)).toEqual(["done"]);
  });
}

describe("in this thread", () => {
  let db: Database;
  beforeAll(async () => {
    db = await openEmbedded();
  });
  afterAll(() => db.close());
  heardBy(() => ({ teller: db, hearer: db }));
});

describe("in a thread of its own", () => {
  let db: Database;
  let folder: string;
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), "septima-hear-"));
    db = await openApart(THREAD, path.join(folder, "db"));
  });
  afterAll(async () => {
    await db.close();
    await rm(folder, { recursive: true, force: true });
  });
  heardBy(() => ({ teller: db, hearer: db }));
});

describe.skipIf(serverPrograms() === null)("on a server, from one process to another", () => {
  let server: Awaited<ReturnType<typeof startServer>>;
  let teller: Database;
  let hearer: Database;
  beforeAll(async () => {
    server = await startServer();
    teller = openServer(server.url);
    hearer = openServer(server.url);
  });
  afterAll(async () => {
    await teller.close();
    await hearer.close();
    await server.stop();
  });
  heardBy(() => ({ teller, hearer }));

  test("a connection that is lost is taken up again, and says that something may have been missed", async () => {
    const ear = await hearing(hearer, "late");
    await teller.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen%' and pid <> pg_backend_pid()",
    );
    expect(await ear.until(1)).toEqual([null]);
    await tell(teller, "late", "again");
    expect(await ear.until(2)).toEqual([null, "again"]);
  });
});
