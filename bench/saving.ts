/** Saves of one window in a design of more than 150 blocks, on the embedded database. */
import { changeEmail, commands } from "~/core/compose";
import { blocksOf } from "~/core/email";
import { difference, type Packed, pack } from "~/core/steps";
import { startCampaign } from "~/server/campaigns/campaigns";
import { savedDesign, saveSteps } from "~/server/campaigns/saving";
import type { Queries } from "~/server/db/database";
import { openWorld, saveDesign } from "~/server/test-world";
import { grown, hundredBlocks } from "./designs";
import type { Line } from "./line";

const SAVES = 80;
const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

export async function savingLines(): Promise<Line[]> {
  const world = await openWorld();
  const { db } = world.septima;
  let asked = 0;
  let asking = 0;
  const timed = <T extends Queries>(on: T): T => ({
    ...on,
    query: async (...of: Parameters<Queries["query"]>) => {
      const begun = performance.now();
      const rows = await on.query(...of);
      asked++;
      asking += performance.now() - begun;
      return rows;
    },
  });
  const septima = {
    ...world.septima,
    db: {
      ...timed(db),
      transaction: ((work) => db.transaction((tx) => work(timed(tx)))) as typeof db.transaction,
    },
  };
  try {
    const id = await startCampaign(septima, "Bench", "letter");
    await saveDesign(septima, id, grown(await hundredBlocks(), 150));
    let { email, revision } = await savedDesign(septima, id);
    const words = blocksOf(email).find(({ type }) => type === "heading");
    if (!words) throw new Error("the design has no heading");
    const whole: number[] = [];
    const queries: number[] = [];
    const each: number[] = [];
    for (let at = 0; at < SAVES; at++) {
      const command = commands.set(words.id, { content: [{ type: "text", text: `Sow ${at}` }] });
      const next = changeEmail(email, command).email;
      const steps = JSON.parse(JSON.stringify(pack(difference(email, next)))) as Packed[];
      asked = 0;
      asking = 0;
      const begun = performance.now();
      const answer = await saveSteps(septima, id, { revision, save: `save-${at}`, steps });
      whole.push(performance.now() - begun);
      queries.push(asked);
      each.push(asking);
      if (answer.state !== "saved") throw new Error(`a save was ${answer.state}`);
      ({ email, revision } = { email: next, revision: answer.revision });
    }
    return [
      [
        `a save in ${blocksOf(email).length} blocks`,
        `${median(whole).toFixed(1)} ms, ${median(each).toFixed(1)} of them for ${median(queries)} questions to the database`,
        "10 ms",
      ],
    ];
  } finally {
    await world.close();
  }
}
