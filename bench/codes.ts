/** Handing codes to the readers of a sending, against handing them out one by one. */
import { addBatch, reserveCodes, takeCodes } from "~/server/sources/codes";
import { openWorld } from "~/server/test-world";
import type { Line } from "./line";

const READERS = 10_000;
const ONE_BY_ONE = 300;

export async function codeLines(): Promise<Line[]> {
  const { septima, close } = await openWorld();
  const { db } = septima;
  try {
    await db.query(
      "insert into contacts (email, created_at) select i || '@mail.example', now() from generate_series(1, $1::int) i",
      [READERS + ONE_BY_ONE],
    );
    const codes = Array.from({ length: READERS * 2 }, (_, at) => `CODE-${at}`).join("\n");
    const batch = {
      key: "bench",
      name: "Bench",
      per: "campaign" as const,
      example: "EXAMPLE",
      low: 0,
      ends: null,
    };
    await addBatch(septima, batch, codes);
    // With fresh statistics the planner once chose to go through all of them for each.
    await db.query("analyze");
    const at = new Date();
    const readers = Array.from({ length: READERS }, (_, id) => id + 1);
    let begun = performance.now();
    await db.transaction((tx) => reserveCodes(tx, { id: "d", campaignId: "c", at }, "bench", readers));
    const all = (performance.now() - begun) / 1000;
    begun = performance.now();
    for (let id = READERS + 1; id <= READERS + ONE_BY_ONE; id++)
      await db.transaction((tx) => takeCodes(tx, "bench", [id], { whose: "c", dispatchId: null, at }));
    const each = (performance.now() - begun) / 1000 / ONE_BY_ONE;
    const ratio = (each * READERS) / all;
    return [
      [
        `reserve codes for ${READERS.toLocaleString("en")} readers, embedded`,
        `${all.toFixed(2)} s, ${ratio.toFixed(0)} × one by one`,
        "1 s",
      ],
    ];
  } finally {
    await close();
  }
}
