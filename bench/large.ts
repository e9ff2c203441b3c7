/**
 * The running program on a PostgreSQL server with a million contacts and ten million events: the audience page, its
 * counts, its table, an import and its undo. Left out where the server is not installed.
 */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { startProgram } from "~/e2e/program";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { filled } from "./filling";
import { importTimes, inSeconds } from "./importing";
import type { Line } from "./line";

const SENT_FIVE = { kind: "did", what: "sent", often: "atLeast", times: 5 };

const FILL = [
  `insert into contacts (email, fields, status, created_at)
  select 'r' || n || '@mail.example', jsonb_build_object(
    'first_name', (array['Ines','Priya','Tobias','Maud'])[1 + n % 4] || n % 997, 'last_name', 'Calder' || (n * 7919::bigint) % 30011,
    'zone', (array['cool','mild','warm'])[1 + n % 3], 'branch', (array['Alderwick','Marl Bay','Fennimoor'])[1 + n % 3],
    'orders', n % 40, 'joined', to_char(date '2010-01-01' + (n % 5800)::int, 'YYYY-MM-DD'), 'language', (array['en','fr','de'])[1 + n % 3]),
    case when n % 50 = 0 then 'unsubscribed' else 'subscribed' end, now()
  from generate_series(1, 1000000) n`,
  `insert into campaigns (id, name, email, created_at, updated_at)
  select 'c' || n, 'Campaign ' || n, '{}', now(), now() from generate_series(1, 12) n`,
  `insert into lists (id, name, about, topic, created_at) select 'l' || n, 'List ' || n, '', false, now() from generate_series(1, 6) n`,
  `insert into list_members (list_id, contact_id) select 'l' || (1 + n % 5), n from generate_series(1, 1000000) n`,
  `insert into list_members (list_id, contact_id) select 'l6', n from generate_series(1, 600000) n`,
  `insert into segments (id, name, rule, created_at) values
  ('s1', 'Many orders', '{"kind":"field","field":"orders","op":"atLeast","value":17}', now()),
  ('s2', 'Warm', '{"kind":"field","field":"zone","op":"is","value":"warm"}', now()),
  ('s3', 'Sent at least 5', '${JSON.stringify(SENT_FIVE)}', now()),
  ('s4', 'Opened none', '{"kind":"did","what":"opened","often":"atMost","times":0}', now())`,
  `insert into events (at, contact_id, campaign, kind)
  select now() - (n / 10e6) * interval '365 days', 1 + (n * 7919::bigint) % 1000000, 1 + (n / 1000001)::int, 1
  from generate_series(1, 8000000) n`,
  `insert into events (at, contact_id, campaign, kind)
  select now() - (n / 10e6) * interval '365 days', 1 + (n * 7919::bigint) % 1000000, 1 + (n / 300001)::int, 2
  from generate_series(1, 2000000) n`,
];

export async function largeLines(): Promise<Line[]> {
  if (serverPrograms() === null) return [["1,000,000 contacts", "no PostgreSQL server here", ""]];
  const server = await startServer();
  const folder = await mkdtemp(path.join(tmpdir(), "septima-large-"));
  try {
    await (await filled(server.url, FILL)).close();
    const env = { DATABASE_URL: server.url, SEPTIMA_DEMO: "0" };
    const program = await startProgram({ data: folder, env });
    try {
      return await measured(program.address);
    } finally {
      await program.rest();
    }
  } finally {
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

async function measured(address: string): Promise<Line[]> {
  const ask = async (path: string, body?: unknown) => {
    const begun = performance.now();
    const answer = await fetch(address + path, {
      ...(body !== undefined && {
        method: "POST",
        headers: { "content-type": "application/json", origin: address },
        body: JSON.stringify(body),
      }),
    });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${text.slice(0, 200)}`);
    return `${Math.round(performance.now() - begun)} ms`;
  };
  const group = { kind: "everyone", id: "" };
  const rows = (by: string, from = 0) =>
    ask("/audience/rows", {
      query: { group, words: "", filter: null, sort: { by, down: false } },
      from,
      count: 100,
    });
  await ask("/settings");
  const page = [await ask("/audience"), await ask("/audience")];
  const counts = [await ask("/audience/counts"), await ask("/audience/counts")];
  const sorted = [await rows("name"), await rows("joined"), await rows("email")];
  const far = [await rows("name", 700_000), await rows("name", 300_000)];
  const did = [
    await ask("/readers/count", SENT_FIVE),
    await ask("/readers/count", { ...SENT_FIVE, within: 90 }),
  ];
  const times = await importTimes({ address });
  const [, back] = await times.takeBack();
  return [
    ["1,000,000 contacts on a server: the audience page, and again", page.join("; "), "1 s"],
    ["all counts of it arrive, and again", counts.join("; "), "after the page"],
    ["sorted by name, by a date, by address: the first rows", sorted.join("; "), "2 s"],
    ["rows far down for the first time; then others", far.join("; "), ""],
    ["10,000,000 events: sent at least 5, known from the counts; in 90 days", did.join("; "), ""],
    [
      "100,000 more brought in; taken back",
      `${inSeconds(times.brought)}; ${inSeconds(back)}`,
      "no longer than it took",
    ],
  ];
}
