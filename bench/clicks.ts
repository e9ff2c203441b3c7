/** Presses on links as they come after a sending: over HTTP, each in the table of events. */
import { spawn } from "node:child_process";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { text } from "node:stream/consumers";
import express from "express";
import { bookDispatch } from "~/server/dispatch/bookings";
import { runDispatch } from "~/server/dispatch/run";
import { bundled } from "~/server/test-bundle";
import { addReaders, openWorld, readyLetter } from "~/server/test-world";
import { countedAddresses } from "~/server/tokens";
import { readersDoors } from "~/start/readers";
import type { Line } from "./line";

const READERS = 1000;
const PRESSES = 10_000;

export async function clickLines(): Promise<Line[]> {
  const { septima, close } = await openWorld();
  const doors = readersDoors(septima);
  const server = http.createServer(express().use(doors.router)).listen(0, "127.0.0.1");
  try {
    await new Promise((resolve) => server.once("listening", resolve));
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    Object.assign(septima.config, { origin });
    await addReaders(septima, "all", READERS);
    const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Letter" }]);
    const dispatch = await bookDispatch(septima, id, { confirmed: READERS, when: null });
    await runDispatch(septima, dispatch);
    const contacts = await septima.db.query<{ id: number }>("select id from contacts order by id");
    const addresses = await countedAddresses(septima, { origin, dispatch, links: 1 });
    const pressed = Array.from({ length: PRESSES }, (_, at) => addresses(contacts[at % READERS].id).link(0));
    const clicks = async () => {
      const [{ count }] = await septima.db.query<{ count: number }>(
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
    await doors.end();
    const all = performance.now() - begun;
    if (led !== PRESSES || (await clicks()) !== PRESSES)
      throw new Error(`${led} led on, ${await clicks()} were counted, of ${PRESSES}`);
    const inserting = performance.now();
    await septima.db.query(
      "insert into events (at, contact_id, campaign, kind) select now(), n, 1, 9 from generate_series(1, $1::int) n",
      [PRESSES],
    );
    const plain = PRESSES / ((performance.now() - inserting) / 1000);
    const rate = PRESSES / (ms / 1000);
    return [
      [
        `${PRESSES.toLocaleString("en")} presses on links, each an event, embedded`,
        `${Math.round(rate).toLocaleString("en")}/s, all written ${((all - ms) / 1000).toFixed(1)} s later; ${(plain / rate).toFixed(0)} × slower than one plain insert of as many`,
        "2,000/s",
      ],
    ];
  } finally {
    server.closeAllConnections();
    server.close();
    await close();
  }
}
