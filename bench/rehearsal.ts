/** A rehearsal of a hundred thousand messages, against the parser alone reading one of them as often. */
import PostalMime from "postal-mime";
import { TEMPLATES } from "~/core/templates";
import { askRehearsal, messageRehearsed, rehearsalOf, rehearse } from "~/server/rehearsal/rehearsal";
import { openWorld } from "~/server/test-world";
import { letterToMany } from "./ledger";
import type { Line } from "./line";

const READERS = 100_000;
/** So many are read by the parser alone. */
const READ = 3000;

export async function rehearsalLines(): Promise<Line[]> {
  const { septima, close } = await openWorld();
  try {
    const id = await letterToMany(
      septima,
      READERS,
      TEMPLATES.find((one) => one.id === "monthly"),
    );
    await askRehearsal(septima, id);
    let longest = 0;
    let last = performance.now();
    // Whoever else is served waits for no longer than this.
    const beat = setInterval(() => {
      longest = Math.max(longest, performance.now() - last);
      last = performance.now();
    }, 5);
    const begun = performance.now();
    await rehearse(septima, id);
    const took = (performance.now() - begun) / 1000;
    clearInterval(beat);
    const came = (await rehearsalOf(septima, id))!;
    if (came.made !== READERS) throw new Error(`${came.made} were made: ${came.trouble}`);
    const message = await messageRehearsed(septima, id, came.extremes[0].some[0].reader);
    const alone = performance.now();
    for (let at = 0; at < READ; at++) await PostalMime.parse(message);
    const parsing = ((performance.now() - alone) / 1000 / READ) * READERS;
    return [
      [
        `rehearse ${READERS.toLocaleString("en")} messages of ${Math.round(came.octets / came.made / 1024)} KB`,
        `${took.toFixed(1)} s, ${(took / parsing).toFixed(2)} × the parser alone in one process`,
        "60 s",
      ],
      ["longest pause meanwhile, with the database in the same process", `${Math.round(longest)} ms`, ""],
    ];
  } finally {
    await close();
  }
}
