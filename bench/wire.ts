/** Handing letters of about 40 KB over, all that belongs to it included, by one worker and by two, to the cheapest server. */
import { type ChildProcess, spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { type Block, mapEmail } from "~/core/email";
import { startPart } from "~/e2e/program";
import { campaign } from "~/server/campaigns/campaigns";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { bookDispatch } from "~/server/dispatch/bookings";
import { dispatchesOf } from "~/server/dispatch/dispatches";
import { messageAsSent } from "~/server/dispatch/frozen";
import { makeKeys, retireKey, setRelaySigns, signingKeys } from "~/server/mail/signing-keys";
import { openNews } from "~/server/news";
import type { Septima } from "~/server/septima";
import { bundled } from "~/server/test-bundle";
import { addReaders, beSomebody, openWorld, readyLetter, saveDesign } from "~/server/test-world";
import type { Line } from "./line";
import { poolRate } from "./pool";

const READERS = 6000;
const ORIGIN = "https://septima.example";
/** So long a slow relay takes for each message, in milliseconds. */
const SLOW = 8;
const DOMAIN = "marlmoss.example";

/** The cheapest server there can be, in a process of its own. */
async function startSink(): Promise<{ port: number; child: ChildProcess }> {
  const child = spawn(process.execPath, [await bundled("bench/sink.ts")], {
    stdio: ["pipe", "pipe", "inherit"],
  });
  const [line] = (await once(child.stdout!, "data")) as [Buffer];
  return { port: Number(line.toString()), child };
}

export async function wireLines(): Promise<Line[]> {
  if (serverPrograms() === null) return [["hand over letters", "PostgreSQL is not installed", ""]];
  const folder = await mkdtemp(path.join(tmpdir(), "septima-wire-"));
  const sink = await startSink();
  const server = await startServer();
  const world = await openWorld();
  const workers = new Set<ChildProcess>();
  const startWorker = async () => {
    const { child } = await startPart("work", {
      SEPTIMA_DATA: folder,
      SEPTIMA_ORIGIN: ORIGIN,
      SEPTIMA_SMTP: `smtp://127.0.0.1:${sink.port}`,
      DATABASE_URL: server.url,
    });
    workers.add(child);
    child.once("exit", () => workers.delete(child));
  };
  const stopWorkers = async () => {
    for (const child of [...workers]) {
      const gone = once(child, "exit");
      child.kill("SIGTERM");
      await gone;
    }
  };
  try {
    await startWorker();
    const db = openServer(server.url);
    const config = { ...world.septima.config, origin: ORIGIN, readers: ORIGIN, relay: "smtp://sink.example" };
    const septima: Septima = {
      ...world.septima,
      db,
      config,
      mailboxes: null,
      cache: new Map(),
      news: await openNews(db),
    };
    await beSomebody(septima);
    await addReaders(septima, "all", READERS, (at) => ({ first_name: `Name ${at}`, branch: `b${at % 40}` }));
    const letter = async (): Promise<string> => {
      const id = await readyLetter(septima, "all", () => [
        { type: "text", text: "Letter for " },
        { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } },
      ]);
      const { email } = await campaign(septima, id);
      const words =
        "What to sow, to plant and to do in the weeks to come, in the beds and under glass. ".repeat(14);
      let times = 0;
      const long = mapEmail(email, (node) =>
        "type" in node && node.type === "text" && times++ === 0
          ? ({
              ...node,
              content: {
                type: "doc",
                content: Array.from({ length: 10 }, () => ({
                  type: "paragraph",
                  content: [
                    { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } },
                    { type: "text", text: `, ${words}` },
                  ],
                })),
              },
            } as unknown as Block)
          : node,
      );
      await saveDesign(septima, id, long);
      return id;
    };
    /** Messages a second, from the first that is taken in hand to the last that is settled. */
    const rate = async (): Promise<{ perSecond: number; bytes: number }> => {
      const id = await letter();
      // What is to be tidied up after the last one does not take from this one.
      await db.script("vacuum analyze");
      const dispatch = await bookDispatch(septima, id, { confirmed: READERS, when: null });
      while ((await dispatchesOf(septima, id))[0].state !== "sent")
        await new Promise((resolve) => setTimeout(resolve, 100));
      const [{ s }] = await db.query<{ s: number }>(
        "select extract(epoch from max(changed_at) - min(handed_at))::float8 as s from recipients where dispatch_id = $1",
        [dispatch],
      );
      const [{ id: contact }] = await db.query<{ id: number }>("select min(id) as id from contacts");
      return { perSecond: READERS / s, bytes: (await messageAsSent(septima, dispatch, contact)).length };
    };
    await rate();
    const unsigned = await rate();
    sink.child.stdin!.write(String(SLOW));
    const slow = await rate();
    await startWorker();
    const slowTwo = await rate();
    sink.child.stdin!.write("0");
    const unsignedTwo = await rate();
    await makeKeys(septima, DOMAIN);
    await setRelaySigns(septima, DOMAIN, false);
    const two = await rate();
    await stopWorkers();
    await startWorker();
    const one = await rate();
    for (const key of await signingKeys(septima))
      if (key.algorithm === "rsa-sha256") await retireKey(septima, key.id);
    const small = await rate();
    await stopWorkers();
    const reference = await poolRate(sink.port, unsigned.bytes);
    await db.close();
    const said = ({ perSecond }: { perSecond: number }) =>
      `${Math.round(perSecond).toLocaleString("en")}/s, ${(perSecond / reference).toFixed(1)} × the mail library’s pool (${Math.round(reference)}/s)`;
    type Rate = { perSecond: number };
    const times = (more: Rate, less: Rate) =>
      `${said(more)}, ${(more.perSecond / less.perSecond).toFixed(2)} × one`;
    const size = Math.round(unsigned.bytes / 1000);
    return [
      [`hand over ${size} KB letters, one worker, signed by the relay`, said(unsigned), "1,500/s"],
      [
        `the same, two workers, on two processors with all the rest`,
        times(unsignedTwo, unsigned),
        "1.6 × one",
      ],
      [
        `the same, to a relay that takes ${SLOW} ms for each, two workers`,
        `${Math.round(slow.perSecond)}/s by one, ${times(slowTwo, slow)}`,
        "1.6 × one",
      ],
      ["the same, one worker, signed here by both keys", said(one), "1,500/s"],
      ["the same, two workers, signed here by both keys", times(two, one), "1.6 × one"],
      ["the same, one worker, signed here by Ed25519 alone", said(small), "1,500/s"],
    ];
  } finally {
    await stopWorkers();
    sink.child.kill();
    await world.close();
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
