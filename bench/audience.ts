/**
 * A large audience: what one test costs, the editions of a design with twenty rules, how long others wait meanwhile and
 * what the process weighs. In the embedded database, and in a PostgreSQL server when `DATABASE_URL` names an empty one.
 */

import path from "node:path";
import { monitorEventLoopDelay } from "node:perf_hooks";
import type { Rule } from "~/core/audience";
import type { Email } from "~/core/email";
import { sampleEmail } from "~/core/render/sample";
import { audienceChanged } from "~/server/audience/answers";

import { countRule } from "~/server/audience/counting";
import { editionsOf } from "~/server/campaigns/rendering";
import type { Database } from "~/server/db/database";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import type { Septima } from "~/server/septima";
import { openWorld } from "~/server/test-world";
import type { Line } from "./line";
import { TWENTY_RULES } from "./message";

/** Fills an audience in the database itself. */
async function people(db: Database, count: number): Promise<void> {
  await db.query(
    `insert into contacts (email, fields, created_at)
     select 'r' || n || '@mail.example', jsonb_build_object(
       'first_name', (array['Ines','Priya','Tobias','Maud'])[1 + n % 4], 'zone', (array['cool','mild','warm'])[1 + n % 3],
       'branch', (array['Alderwick','Marl Bay','Fennimoor'])[1 + n % 3], 'orders', n % 40, 'member', n % 2 = 0,
       'joined', to_char(date '2010-01-01' + (n % 5800)::int, 'YYYY-MM-DD'), 'interests', jsonb_build_array('flowers'),
       'language', (array['en','fr','de'])[1 + n % 3]) - (case when n % 5 = 0 then 'branch' else '' end), now()
     from generate_series(1, $1::int) n`,
    [count],
  );
  await db.script("analyze contacts");
}

/** A design of a hundred blocks, of which twenty rows have a rule. */
function ruled(rules: readonly Rule[]): Email {
  const email = structuredClone(sampleEmail(100));
  const rows = email.sections.slice(0, -1).flatMap((section) => section.rows);
  for (const [at, rule] of rules.entries()) rows[at].show = rule;
  return email;
}

const seconds = async (work: () => Promise<unknown>) => {
  const begun = performance.now();
  await work();
  return (performance.now() - begun) / 1000;
};
const ms = (time: number) => `${Math.round(time * 1000)} ms`;

async function measured(
  septima: Septima,
  where: string,
  rules: readonly Rule[],
  goal: string,
): Promise<Line[]> {
  const email = ruled(rules);
  const everyone = { include: [], exclude: [] };
  const one: Rule = { kind: "field", field: "orders", op: "atLeast", value: 17 };
  const two: Rule = { kind: "any", of: [one, { kind: "field", field: "zone", op: "is", value: "warm" }] };
  audienceChanged(septima);
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  const count = await seconds(() => countRule(septima, one));
  const again = await seconds(() => countRule(septima, two));
  const other = await seconds(() => countRule(septima, { ...one, value: 23 } as Rule));
  const cold = await seconds(() => editionsOf(septima, email, everyone));
  let found = 0;
  const warm = await seconds(async () => {
    found = (await editionsOf(septima, email, everyone)).editions.length;
  });
  delay.disable();
  return [
    [
      `${where}: count by a field for the first time; by two, one of them new; with another value`,
      `${ms(count)}; ${ms(again)}; ${ms(other)}`,
      "100 ms of 100,000",
    ],
    [
      `${where}: editions with ${rules.length} rules, all tests new; known`,
      `${ms(cold)}; ${ms(warm)} (${found} editions)`,
      goal,
    ],
    [
      `${where}: the longest stall meanwhile; memory of the process`,
      `${Math.round(delay.max / 1e6)} ms; ${Math.round(process.memoryUsage.rss() / 1e6)} MB`,
      "100 ms; 600 MB",
    ],
  ];
}

export async function audienceLines(): Promise<Line[]> {
  const lines: Line[] = [];
  const { septima, close } = await openWorld();
  try {
    const { DATABASE_URL: url } = process.env;
    if (url) {
      const db = openServer(url);
      await migrate(db, path.join(process.cwd(), "server/db/migrations"));
      await people(db, 1_000_000);
      lines.push(
        ...(await measured(
          { ...septima, db, cache: new Map() },
          "1,000,000 on a server",
          TWENTY_RULES,
          "8 s",
        )),
      );
      await db.close();
    }
    await people(septima.db, 100_000);
    lines.push(...(await measured(septima, "100,000 embedded", TWENTY_RULES, "1 s")));
  } finally {
    await close();
  }
  return lines;
}
