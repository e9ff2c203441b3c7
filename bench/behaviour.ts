/**
 * What contacts did, in ten million events on a PostgreSQL server of its own: a count by two tests on behaviour, asked for
 * the first time, and a page of the contact table. Left out where the server is not installed.
 */
import type { Rule } from "~/core/audience";
import { behaviourChanged } from "~/server/audience/answers";
import { countRule } from "~/server/audience/counting";
import { tableRows } from "~/server/audience/table";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { openWorld } from "~/server/test-world";
import { filled } from "./filling";
import type { Line } from "./line";

const CONTACTS = 200_000;
const EVENTS = 10_000_000;
const CAMPAIGNS = 40;

const FILL = [
  `insert into contacts (email, fields, created_at)
   select 'r' || n || '@mail.example', jsonb_build_object('first_name', 'R' || n % 997, 'orders', n % 40), now()
   from generate_series(1, ${CONTACTS}) n`,
  `insert into campaigns (id, name, email, created_at, updated_at)
   select 'c' || n, 'Campaign ' || n, '{}', now(), now() from generate_series(1, ${CAMPAIGNS}) n`,
  // Of four events one is an open, and of eight opens one has a click, over two years.
  `insert into events (at, contact_id, campaign, kind)
   select now() - (n::float8 / ${EVENTS}) * interval '730 days', 1 + (n * 7919::bigint) % ${CONTACTS},
     1 + ((n::float8 / ${EVENTS}) * ${CAMPAIGNS - 1})::int, case when n % 32 = 0 then 3 when n % 4 = 0 then 2 else 1 end
   from generate_series(1, ${EVENTS}) n`,
];

const ms = async (work: () => Promise<unknown>) => {
  const begun = performance.now();
  await work();
  return Math.round(performance.now() - begun);
};

export async function behaviourLines(): Promise<Line[]> {
  if (serverPrograms() === null) return [["10,000,000 events", "no PostgreSQL server here", "500 ms"]];
  const server = await startServer();
  const db = await filled(server.url, FILL);
  const world = await openWorld();
  try {
    const septima = { ...world.septima, db, cache: new Map() };
    const rule = (days: number): Rule => ({
      kind: "all",
      of: [
        { kind: "did", what: "opened", often: "atLeast", times: 2, within: days },
        { kind: "did", what: "clicked", often: "atMost", times: 0, within: days },
      ],
    });
    await countRule(septima, { kind: "all", of: [] });
    const counts: number[] = [];
    for (const days of [90, 180, 365]) {
      behaviourChanged(septima);
      counts.push(await ms(() => countRule(septima, rule(days))));
    }
    const query = { group: { kind: "everyone" as const, id: "" }, words: "", filter: null };
    const first = await ms(() => tableRows(septima, { ...query, sort: { by: "name", down: false } }, 0, 100));
    const next = await ms(() =>
      tableRows(septima, { ...query, sort: { by: "name", down: false } }, 150_000, 100),
    );
    return [
      [
        "10,000,000 events: a count by two new tests on behaviour, 90, 180 and 365 days",
        counts.map((count) => `${count} ms`).join(", "),
        "500 ms",
      ],
      [
        "200,000 contacts sorted by name: the first rows, rows far down",
        `${first} ms; ${next} ms`,
        "no wait",
      ],
    ];
  } finally {
    await db.close();
    await server.stop();
    await world.close();
  }
}
