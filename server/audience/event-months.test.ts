/** Events by month on a server: nothing is lost on the way there, and every statement finds what it found. */
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Database } from "../db/database";
import { migrate } from "../db/migrate";
import { openServer } from "../db/postgres";
import { serverPrograms, startServer } from "../db/test-server";
import { fillMentions } from "../mentions";
import { keepMonths } from "./event-months";

const NOW = Date.UTC(2026, 10, 29, 12);

describe.skipIf(serverPrograms() === null)("on a server", () => {
  let server: Awaited<ReturnType<typeof startServer>>;
  let db: Database;
  beforeAll(async () => {
    server = await startServer();
    db = openServer(server.url);
    await migrate(db, "server/db/migrations", { 17: fillMentions });
  });
  afterAll(async () => {
    await db?.close();
    await server?.stop();
  });

  const add = (at: string, contact: number) =>
    db.query("insert into events (at, contact_id, campaign, kind) values ($1, $2, 1, 2)", [at, contact]);
  const all = () =>
    db.query<{ at: Date; contact_id: number }>("select at, contact_id from events order by at, contact_id");
  const lies = async () =>
    Object.fromEntries(
      (
        await db.query<{ table: string; count: number }>(
          `select tableoid::regclass::text as table, count(*)::int as count from events group by 1 order by 1`,
        )
      ).map((row) => [row.table, row.count]),
    );

  test("what is there is moved into its months, and what comes goes there; the same again changes nothing", async () => {
    for (const [contact, at] of [
      "2025-12-31T23:59:59.999Z",
      "2026-01-01T00:00:00Z",
      "2026-11-29T10:00:00Z",
    ].entries())
      await add(at, contact);
    const before = await all();
    const indexes = () =>
      db.query("select count(*)::int as count from pg_index where indrelid = 'events'::regclass");
    const had = await indexes();
    // Two processes that start at once.
    await Promise.all([keepMonths(db, NOW), keepMonths(db, NOW)]);
    expect(await all()).toEqual(before);
    expect(await lies()).toEqual({ events_2025_12: 1, events_2026_01: 1, events_2026_11: 1 });
    expect(await indexes()).toEqual(had);
    await add("2027-02-28T23:00:00Z", 7);
    await add("2030-05-05T00:00:00Z", 8);
    await add("2024-02-29T00:00:00Z", 9);
    expect(await lies()).toMatchObject({ events_2027_02: 1, events_others: 2 });
    await keepMonths(db, NOW);
    expect(await lies()).toEqual({
      events_2024_02: 1,
      events_2025_12: 1,
      events_2026_01: 1,
      events_2026_11: 1,
      events_2027_02: 1,
      events_2030_05: 1,
    });
    const after = await all();
    await keepMonths(db, NOW);
    expect(await all()).toEqual(after);
  });

  test("a period looks at its months alone", async () => {
    const plan = await db.query<{ "QUERY PLAN": string }>(
      "explain select count(*) from events where kind = 2 and at >= '2026-11-01Z' and at < '2026-12-01Z'",
    );
    const said = plan.map((row) => row["QUERY PLAN"]).join("\n");
    expect(said).toContain("events_2026_11");
    expect(said).not.toContain("events_2026_01");
  });

  test("events that are added while months are made are none too many and none too few", async () => {
    const [{ count: before }] = await db.query<{ count: number }>(
      "select count(*)::int as count from events",
    );
    const writing = Promise.all(
      Array.from({ length: 200 }, (_, at) =>
        add(`2031-${String((at % 12) + 1).padStart(2, "0")}-03T00:00:00Z`, at),
      ),
    );
    for (let round = 0; round < 4; round++) await keepMonths(db, NOW);
    await writing;
    await keepMonths(db, NOW);
    const [{ count }] = await db.query<{ count: number }>("select count(*)::int as count from events");
    expect(count).toBe(before + 200);
    expect(await lies()).toMatchObject({ events_2031_01: 17, events_2031_12: 16 });
  });

  test("changes are told of, once for each statement", async () => {
    const heard: (string | null)[] = [];
    await db.hear("changes", (words) => void heard.push(words));
    await add("2026-11-29T11:00:00Z", 1);
    await expect.poll(() => heard.filter((words) => words === "behaviour").length).toBe(1);
    await add("2026-11-29T11:00:01Z", 1);
    await expect.poll(() => heard.filter((words) => words === "behaviour").length).toBe(2);
  });
});
