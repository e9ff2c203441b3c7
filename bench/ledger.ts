/** The ledger of sending with a hundred thousand recipients: gathering them, and taking the first and the last in hand. */
import { mapEmail } from "~/core/email";
import { type Template, templateEmail } from "~/core/templates";
import { saveField } from "~/server/audience/fields";
import { campaign, setReaders, startCampaign, startWith } from "~/server/campaigns/campaigns";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { bookDispatch } from "~/server/dispatch/bookings";
import { claim } from "~/server/dispatch/claiming";
import { bookedDispatch, moveDispatch } from "~/server/dispatch/dispatches";
import { gather } from "~/server/dispatch/gather";
import { settle } from "~/server/dispatch/settling";
import { fillMentions } from "~/server/mentions";
import { openNews } from "~/server/news";
import type { Septima } from "~/server/septima";
import { addList, beSomebody, openWorld, saveDesign } from "~/server/test-world";
import type { Line } from "./line";

const READERS = 100_000;
/** So many recipients are taken in hand at a time, and so many times at each end are compared. */
const BATCH = 480;
const ENDS = 20;

const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const begun = performance.now();
  await work();
  return (performance.now() - begun) / 1000;
};
const middle = (times: number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];

export async function ledgerLines(): Promise<Line[]> {
  const world = await openWorld();
  const lines = await linesOf(world.septima, "embedded").finally(world.close);
  if (serverPrograms() === null) return lines;
  const server = await startServer();
  const db = openServer(server.url);
  const other = await openWorld();
  try {
    await migrate(db, "server/db/migrations", { 17: fillMentions });
    const septima = { ...other.septima, db, cache: new Map(), news: await openNews(db) };
    await beSomebody(septima);
    return [...lines, ...(await linesOf(septima, "on a server"))];
  } finally {
    await db.close();
    await other.close();
    await server.stop();
  }
}

/** A letter to as many readers, with a block for a third of them and their names in its subject. */
export async function letterToMany(septima: Septima, readers: number, template?: Template): Promise<string> {
  const { db } = septima;
  await addList(septima, "all", "All");
  await db.query(
    `insert into contacts (email, fields, created_at)
       select 'r' || n || '@mail.example', jsonb_build_object('first_name', 'Name ' || n, 'last_name', 'Calder',
         'branch', 'b' || n % 40, 'zone', (array['cool', 'mild', 'warm'])[1 + n % 3], 'orders', n % 50,
         'joined', '2024-05-01', 'member', n % 2 = 0), now() from generate_series(1, $1::int) n`,
    [readers],
  );
  for (const key of ["zone", "branch"]) await saveField(septima, { key, label: key, kind: "text" });
  await db.query("insert into list_members (list_id, contact_id) select 'all', id from contacts");
  const id = template
    ? await startWith(septima, "Bench", () => templateEmail(template, ""))
    : await startCampaign(septima, "Bench", "letter");
  const { email } = await campaign(septima, id);
  const ready = mapEmail(email, (node) =>
    "type" in node && node.type === "button"
      ? {
          ...node,
          href: "https://shop.example/",
          show: { kind: "field", field: "zone", op: "is", value: "cool" },
        }
      : node,
  );
  const tag = (field: string) =>
    ({ type: "mergeTag", attrs: { field, fallback: "you", format: "asIs" } }) as const;
  const subject = [{ type: "text" as const, text: "Letter " }, tag("first_name"), tag("branch")];
  await saveDesign(septima, id, { ...ready, envelope: { ...ready.envelope, subject } });
  await setReaders(septima, id, { include: [{ kind: "list", id: "all" }], exclude: [] });
  return id;
}

async function linesOf(septima: Septima, where: string): Promise<Line[]> {
  const { db } = septima;
  const id = await letterToMany(septima, READERS);
  const dispatch = await bookDispatch(septima, id, { confirmed: READERS, when: null });
  await moveDispatch(septima, dispatch, "scheduled", "gathering");
  await db.script("create table plain (a text, b integer, c jsonb, primary key (a, b))");
  const plain = await seconds(() =>
    db.query("insert into plain select 'd', id, fields from contacts order by id"),
  );
  const gathered = await seconds(async () => gather(septima, (await bookedDispatch(septima, dispatch))!));
  const times: number[] = [];
  for (let after = 0; ; ) {
    const begun = performance.now();
    const { claimed, last } = await claim(septima, dispatch, "a.example", after, BATCH);
    if (last === null) break;
    times.push(performance.now() - begun);
    after = last;
    await settle(
      septima,
      dispatch,
      claimed.map((row) => ({
        id: row.id,
        messageId: row.messageId,
        state: "accepted",
        trouble: null,
        tried: true,
      })),
    );
  }
  const first = middle(times.slice(0, ENDS));
  const last = middle(times.slice(-ENDS - 1, -1));
  return [
    [
      `gather ${READERS.toLocaleString("en")} recipients, ${where}`,
      `${gathered.toFixed(1)} s, ${(gathered / plain).toFixed(1)} × a plain insert`,
      "5 s",
    ],
    [
      `take ${BATCH} recipients in hand, the last against the first, ${where}`,
      `${first.toFixed(1)} ms, ${(last / first).toFixed(2)} ×`,
      "1 ×",
    ],
  ];
}
