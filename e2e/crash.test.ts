/** The process is killed in the middle of a dispatch: nobody gets it twice, nobody is lost. */
import { rm } from "node:fs/promises";
import { expect, test } from "vitest";
import { campaignNamed, eventually, readersOf, submit } from "./campaigns";
import { download, mailboxOf, unfilled } from "./postroom";
import { FEW, startProgram } from "./program";

async function arrived(address: string): Promise<number> {
  const { total } = (await (await fetch(`${address}/postroom/list`)).json()) as { total: number };
  return total;
}

const KILLS = 20;

// So many starts take their time on a busy machine.
const PATIENCE = { timeout: 1_200_000 };

test(`killed ${KILLS} times in mid-dispatch, each reader gets exactly one message`, PATIENCE, async () => {
  let program = await startProgram({ contacts: 5000 });
  const { data } = program;
  try {
    const id = await campaignNamed(program, "What to sow now");
    const readers = await readersOf(program, id);
    expect(readers).toBeGreaterThan(3000);
    const answer = await submit(program, `/campaigns/${id}/send`, {
      intent: "book",
      confirmed: String(readers),
      when: "now",
      date: "",
      time: "",
      zone: "UTC",
    });
    expect(answer.status).toBe(200);

    for (let kill = 1; kill <= KILLS; kill++) {
      const enough = (readers * kill) / (KILLS + 2);
      await eventually("messages arrive", async () => (await arrived(program.address)) > enough);
      await program.kill();
      program = await startProgram({ data });
      expect(await arrived(program.address)).toBeLessThan(readers);
    }
    await eventually(
      "the dispatch ends",
      async () =>
        (await (await fetch(`${program.address}/campaigns/${id}/send`)).text()).includes(
          `Sent to ${readers.toLocaleString("en")} readers`,
        ),
      120_000,
    );

    const messages = await mailboxOf(program, "");
    const perReader = new Map<string, number>();
    for (const message of messages) perReader.set(message.to, (perReader.get(message.to) ?? 0) + 1);
    expect([...perReader.values()].filter((count) => count !== 1)).toEqual([]);
    expect(perReader.size).toBe(readers);
    for (const message of messages.filter((_, index) => index % 400 === 0))
      expect(unfilled(await download(program, message))).toEqual([]);
  } finally {
    await program.stop();
    await rm(data, { recursive: true, force: true });
  }
});

test("a dispatch scheduled before a crash goes out after it, at its time and not before", async () => {
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
    program = await startProgram({ data });
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
});
