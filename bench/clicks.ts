/** Presses on links as they come after a sending: over HTTP, to a process for readers alone, each in the table of events. */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { text } from "node:stream/consumers";
import { startPart } from "~/e2e/program";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { bookDispatch } from "~/server/dispatch/bookings";
import { runDispatch } from "~/server/dispatch/run";
import { openNews } from "~/server/news";
import { bundled } from "~/server/test-bundle";
import { addReaders, beSomebody, openWorld, readyLetter } from "~/server/test-world";
import { countedAddresses } from "~/server/tokens";
import type { Line } from "./line";

const READERS = 1000;
const PRESSES = 20_000;

export async function clickLines(): Promise<Line[]> {
  if (serverPrograms() === null) return [["presses on links", "PostgreSQL is not installed", ""]];
  const folder = await mkdtemp(path.join(tmpdir(), "septima-clicks-"));
  const server = await startServer();
  const { address: origin, child: readers } = await startPart("readers", {
    SEPTIMA_DATA: folder,
    DATABASE_URL: server.url,
  });
  const world = await openWorld();
  try {
    const db = openServer(server.url);
    const config = { ...world.septima.config, readers: origin };
    const septima = { ...world.septima, db, config, cache: new Map(), news: await openNews(db) };
    await beSomebody(septima);
    await addReaders(septima, "all", READERS);
    const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Letter" }]);
    const dispatch = await bookDispatch(septima, id, { confirmed: READERS, when: null });
    await runDispatch(septima, dispatch);
    const contacts = await db.query<{ id: number }>("select id from contacts order by id");
    const addresses = await countedAddresses(septima, { origin, dispatch, links: 1 });
    const pressed = Array.from({ length: PRESSES }, (_, at) => addresses(contacts[at % READERS].id).link(0));
    const clicks = async () => {
      const [{ count }] = await db.query<{ count: number }>(
        "select count(*)::int as count from events where kind in (3, 13)",
      );
      return count;
    };
    const begun = performance.now();
    const child = spawn(process.execPath, [await bundled("bench/presser.ts")], {
      stdio: ["pipe", "pipe", "inherit"],
    });
    child.stdin.end(JSON.stringify(pressed));
    const { led, ms } = JSON.parse(await text(child.stdout)) as { led: number; ms: number };
    if (led !== PRESSES) throw new Error(`${led} led on, of ${PRESSES}`);
    while ((await clicks()) < PRESSES) await new Promise((resolve) => setTimeout(resolve, 50));
    const all = performance.now() - begun;
    const inserting = performance.now();
    await db.query(
      "insert into events (at, contact_id, campaign, kind) select now(), n, 1, 9 from generate_series(1, $1::int) n",
      [PRESSES],
    );
    const plain = PRESSES / ((performance.now() - inserting) / 1000);
    const rate = PRESSES / (ms / 1000);
    await db.close();
    return [
      [
        `${PRESSES.toLocaleString("en")} presses on links, each an event`,
        `${Math.round(rate).toLocaleString("en")}/s, all written ${((all - ms) / 1000).toFixed(1)} s later; ${(plain / rate).toFixed(0)} × slower than one plain insert of as many`,
        "2,000/s",
      ],
    ];
  } finally {
    const gone = once(readers, "exit");
    readers.kill("SIGTERM");
    await gone;
    await world.close();
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
