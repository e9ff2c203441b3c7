/** How long pages take while a sending goes to twelve thousand readers, and as long when nothing goes. */
import { campaignNamed, sendNow } from "~/e2e/campaigns";
import { startProgram } from "~/e2e/program";
import type { Line } from "./line";

const PAGES = ["/campaigns", "/audience", "/settings", "/lookups", "/templates"];

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
    const busy = await times(async () => {
      const answer = await fetch(`${program.address}/campaigns/${id}/send/progress`);
      const { dispatch } = (await answer.json()) as { dispatch: { state: string } };
      return dispatch.state !== "sent";
    });
    const took = (performance.now() - begun) / 1000;
    return [
      ["pages when nothing goes: the middle one, of 20 the slowest, the slowest", words(quiet), ""],
      [
        `pages while ${readers.toLocaleString("en")} letters go (${took.toFixed(0)} s, ${busy.length} pages)`,
        words(busy),
        "95 of 100 within 500 ms",
      ],
    ];
  } finally {
    await program.stop();
  }
}
