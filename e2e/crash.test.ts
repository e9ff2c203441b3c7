/** The process is killed in the middle of a dispatch: nobody gets it twice, nobody is lost. */
import { rm } from "node:fs/promises";
import { expect, test } from "vitest";
import { campaignNamed, copyOf, eventually, readersOf, sendNow, submit } from "./campaigns";
import { download, mailboxOf, unfilled } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

async function arrived(address: string): Promise<number> {
  const { total } = (await (await fetch(`${address}/postroom/list`)).json()) as { total: number };
  return total;
}

/** Starts a program that was killed again, where it was: so its own sources are those it has read. */
const startAgain = ({ address, data }: Program) =>
  startProgram({ data, env: { PORT: new URL(address).port } });

/** Begun at first; wherever the work runs low more are begun, so that no kill strikes an idle program. */
const DISPATCHES = 10;
/** So many in all; by hand more can be asked for. */
const KILLS = Number(process.env.E2E_KILLS ?? 20);

// So many starts take their time on a busy machine.
const PATIENCE = { timeout: 600_000 + KILLS * 30_000 };

test(
  `killed ${KILLS} times while dispatches go out, each reader gets each letter exactly once`,
  PATIENCE,
  async () => {
    let program = await startProgram({ contacts: FEW });
    const { data } = program;
    try {
      const first = await campaignNamed(program, "What to sow now");
      const readers = await readersOf(program, first);
      expect(readers).toBeGreaterThan(200);
      const campaigns = [first];
      while (campaigns.length < DISPATCHES) campaigns.push(await copyOf(program, first));
      for (const id of campaigns) await sendNow(program, id);

      for (let kill = 1; kill <= KILLS; kill++) {
        const before = await arrived(program.address);
        if (campaigns.length * readers - before < 2 * readers) {
          const another = await copyOf(program, first);
          await sendNow(program, another);
          campaigns.push(another);
        }
        // Each time somewhere else: among the first messages of a life as well as in full flight.
        const enough = before + (Math.random() * readers) / 2;
        await eventually("messages arrive", async () => (await arrived(program.address)) > enough, 120_000);
        await program.kill();
        program = await startAgain(program);
      }
      const all = campaigns.length * readers;
      for (const id of campaigns)
        await eventually(
          "the dispatch ends",
          async () =>
            (await (await fetch(`${program.address}/campaigns/${id}/send`)).text()).includes(
              `Sent to ${readers.toLocaleString("en")} readers`,
            ),
          120_000,
        );

      const messages = await mailboxOf(program, "");
      const copies = new Map<string, number>();
      for (const { to, messageId } of messages) {
        const letter = `${to} ${messageId.split(".")[0]}`;
        copies.set(letter, (copies.get(letter) ?? 0) + 1);
      }
      expect([...copies].filter(([, count]) => count !== 1)).toEqual([]);
      expect(copies.size).toBe(all);
      for (const message of messages.filter((_, index) => index % 400 === 0))
        expect(unfilled(await download(program, message))).toEqual([]);
    } finally {
      await program.stop();
      await rm(data, { recursive: true, force: true });
    }
  },
);

test(
  "a dispatch scheduled before a crash goes out after it, at its time and not before",
  PATIENCE,
  async () => {
    const begun = Date.now();
    let program = await startProgram({ contacts: FEW });
    const { data } = program;
    const startTakes = Date.now() - begun;
    try {
      const id = await campaignNamed(program, "What to sow now");
      const readers = await readersOf(program, id);
      // The next full minute that leaves time to restart, on a busy machine, too.
      const at = new Date(Math.ceil((Date.now() + 25_000 + 2 * startTakes) / 60_000) * 60_000);
      const [date, time] = [at.toISOString().slice(0, 10), at.toISOString().slice(11, 16)];
      await submit(program, `/campaigns/${id}/send`, {
        intent: "book",
        confirmed: String(readers),
        when: "later",
        date,
        time,
        zone: "UTC",
      });
      const sheet = async () => (await fetch(`${program.address}/campaigns/${id}/send`)).text();
      expect(await sheet()).toContain(`${time} UTC`);
      await program.kill();
      program = await startAgain(program);
      expect(await arrived(program.address)).toBe(0);
      expect(Date.now()).toBeLessThan(at.getTime());
      await eventually(
        "it goes out",
        async () => (await arrived(program.address)) === readers,
        at.getTime() - Date.now() + 120_000,
      );
      expect(Date.now()).toBeGreaterThanOrEqual(at.getTime());
      await eventually("it ends", async () => (await sheet()).includes("Sent to"));
      expect(await arrived(program.address)).toBe(readers);
    } finally {
      await program.stop();
      await rm(data, { recursive: true, force: true });
    }
  },
);
