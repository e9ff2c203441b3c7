/**
 * How long pages take while a sending goes to twelve thousand readers, and as long when nothing goes; and how fast letters go to the
 * postroom from one process with the embedded database, all that belongs to it included.
 */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { campaignNamed, copyOf, sendNow } from "~/e2e/campaigns";
import { type Program, startProgram } from "~/e2e/program";
import { bundled } from "~/server/test-bundle";
import { openPostroomApart } from "~/standins/postroom/apart";
import type { Line } from "./line";
import { poolRate } from "./pool";

const PAGES = ["/campaigns", "/audience", "/settings", "/lookups", "/templates"];

/** Whether a campaign is still being sent. */
async function isGoing(program: Program, id: string): Promise<boolean> {
  const answer = await fetch(`${program.address}/campaigns/${id}/send/progress`);
  const { dispatch } = (await answer.json()) as { dispatch: { state: string } };
  return dispatch.state !== "sent";
}

/** Letters a second, from the first that arrives to the last, with nobody looking. */
async function pace(program: Program, campaign: string): Promise<{ perSecond: number; bytes: number }> {
  const id = await copyOf(program, campaign);
  const readers = await sendNow(program, id);
  while (await isGoing(program, id)) await new Promise((resolve) => setTimeout(resolve, 4000));
  const arrivedAt = async (newest: number) => {
    const answer = await fetch(`${program.address}/postroom/list?q=&from=${newest}`);
    return ((await answer.json()) as { messages: { at: number; size: number }[] }).messages[0];
  };
  const [last, first] = [await arrivedAt(0), await arrivedAt(readers - 1)];
  return { perSecond: readers / ((last.at - first.at) / 1000), bytes: last.size };
}

/** As fast as the mail library hands the same to a postroom, which has nothing else to do. */
async function reference(bytes: number): Promise<number> {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-bench-"));
  const postroom = await openPostroomApart(await bundled("standins/postroom/thread.ts"), folder, {});
  try {
    return await poolRate(Number(new URL(postroom.address).port), bytes);
  } finally {
    await postroom.close();
    await rm(folder, { recursive: true });
  }
}

export async function sendingLines(): Promise<Line[]> {
  const program = await startProgram();
  try {
    const id = await campaignNamed(program, "What to sow now");
    const looked = [
      ...PAGES,
      `/campaigns/${id}/compose`,
      `/campaigns/${id}/preview`,
      `/campaigns/${id}/send`,
    ];
    const times = async (going: () => Promise<boolean>) => {
      const all: number[] = [];
      do
        for (const path of looked) {
          const begun = performance.now();
          await (await fetch(program.address + path)).text();
          all.push(performance.now() - begun);
        }
      while (await going());
      return all.sort((a, b) => a - b);
    };
    const words = (all: readonly number[]) =>
      [0.5, 0.95, 1].map((part) => `${Math.round(all[Math.ceil(all.length * part) - 1])} ms`).join(", ");
    let rounds = 0;
    await times(async () => false);
    const quiet = await times(async () => ++rounds < 5);
    const begun = performance.now();
    const readers = await sendNow(program, id);
    const busy = await times(() => isGoing(program, id));
    const took = (performance.now() - begun) / 1000;
    const { perSecond, bytes } = await pace(program, id);
    const library = await reference(bytes);
    return [
      ["pages when nothing goes: the middle one, of 20 the slowest, the slowest", words(quiet), ""],
      [
        `pages while ${readers.toLocaleString("en")} letters go (${took.toFixed(0)} s, ${busy.length} pages)`,
        words(busy),
        "95 of 100 within 500 ms",
      ],
      [
        `letters of ${Math.round(bytes / 1000)} KB to the postroom, all in one process`,
        `${Math.round(perSecond)}/s, ${(perSecond / library).toFixed(1)} × the mail library’s pool (${Math.round(library)}/s)`,
        "800/s",
      ],
    ];
  } finally {
    await program.stop();
  }
}
