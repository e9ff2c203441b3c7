import { randomBytes } from "node:crypto";
import { hostname } from "node:os";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { outOfReach } from "~/core/preflight";
import { keepMonths } from "~/server/audience/event-months";
import { clearFiles } from "~/server/audience/import-file";
import { recordSizes } from "~/server/audience/sizes";
import { settleChanges } from "~/server/audience/taking-back";
import { emptyBin } from "~/server/campaigns/campaigns";
import { type Carriers, finishCarrying } from "~/server/campaigns/carrying";
import { carryClipping } from "~/server/campaigns/clippings";
import { readMissingWords } from "~/server/campaigns/finding";
import { carryTemplate } from "~/server/campaigns/template-offers";
import { hearChanges } from "~/server/changes";
import {
  openConfined,
  PICTURE_WORK,
  REHEARSAL_WORK,
  SOURCE_WORK,
  USUAL_LIMITS,
} from "~/server/confined/confined";
import { openApart } from "~/server/db/apart";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import { endLeases } from "~/server/dispatch/settling";
import { type Dispatching, startDispatching } from "~/server/dispatch/worker";
import { forgetBatches } from "~/server/door/door";
import { filesInDatabase, folderOfFiles } from "~/server/files";
import { startJobs } from "~/server/jobs";
import { mailGoes, openChosenRelay } from "~/server/mail/chosen-relay";
import { fillMentions } from "~/server/mentions";
import { openNews } from "~/server/news";
import { showEverywhere } from "~/server/pictures/editing";
import { clearComing } from "~/server/pictures/files";
import { giveRewards, REWARD_JOB } from "~/server/referrals/rewards";
import { REHEARSE_JOB, rehearse } from "~/server/rehearsal/rehearsal";
import { openDoor } from "~/server/returned/door";
import { takeFolder } from "~/server/returned/folder";
import { forgetReturned } from "~/server/returned/listing";
import type { KeyPlace, Septima } from "~/server/septima";
import { refreshDue } from "~/server/sources/sources";
import { openPostroomApart } from "~/standins/postroom/apart";
import { lockFolder, StartError } from "./lock";

export interface StartOptions {
  version: string;
  data: string;
  /** Where browsers reach the interface. */
  origin: string;
  /** Where readers reach what is for them. */
  readers: string;
  /** Where this process listens, to those on the same machine; nowhere when missing. */
  local?: string;
  standins: Record<string, string>;
  /** What the build made of `server/confined/child.ts`. */
  confined: string;
  /** What the build made of `server/db/thread.ts`. */
  database: string;
  /** What the build made of `standins/postroom/thread.ts`. */
  postroom: string;
  /** Folder of the migrations. */
  migrations: string;
  databaseUrl?: string;
  relayUrl?: string;
  /** Whether this process serves and works, and needs no other. */
  alone: boolean;
  key: KeyPlace;
  /** The folder into which others put what comes back; one within the data when missing. */
  returns?: string;
  /** Where the door is opened for what comes back by SMTP, `host:port`; nowhere when missing. */
  door?: string;
  /** The name server to ask; that of the machine when missing. */
  dns?: string;
  /** How long a worker has recipients in hand, in milliseconds; a minute when missing. */
  lease?: number;
  /** Whether files are kept in the database, so that machines need no folder in common. */
  filesInDatabase: boolean;
  say(what: string): void;
  report(error: unknown): void;
}

/** How long a worker has recipients in hand, in milliseconds. */
const LEASE = 60_000;
/** So long what is being handed over is waited for when the program stops, in milliseconds. */
const STOP_WAIT = 30_000;
/** How many times as long confined work may take until the program is ready. */
const WHILE_STARTING = 10;

/** So many milliseconds the clock is put ahead, to try what is yet to come. */
const AHEAD = 1000 * (Number(process.env.SEPTIMA_AHEAD) || 0);

/** Opens the database, the mail and the jobs, and takes up what was interrupted. `stop` ends all of it cleanly. */
export async function openSeptima(
  options: StartOptions,
): Promise<{ septima: Septima; started(): void; stop(dispatching?: Dispatching): Promise<void> }> {
  const { data, say, report } = options;
  const unlock = options.databaseUrl ? null : await lockFolder(data);
  say("Opening the database");
  const db = options.databaseUrl
    ? openServer(options.databaseUrl)
    : await openApart(options.database, path.join(data, "db"));
  const schema = await migrate(db, options.migrations, { 17: fillMentions });
  // Those that share the work share a relay.
  const ownDoor =
    options.relayUrl || !options.alone
      ? null
      : await openDoor(() => septima, { host: "127.0.0.1", port: 0, via: "postroom" });
  const postroom =
    ownDoor &&
    (await openPostroomApart(options.postroom, path.join(data, "postroom"), {
      door: ownDoor.address,
      readers: options.local ? { origin: options.readers, at: options.local } : undefined,
    }));
  const jobs = await startJobs(db, report);
  // A first start draws and reads much at once, perhaps on a machine that is busy.
  let starting = true;
  const stretch = () => (starting ? WHILE_STARTING : 1);
  const confined = openConfined({ file: options.confined }, USUAL_LIMITS, stretch);
  const pictureWork = openConfined({ file: options.confined }, PICTURE_WORK, stretch);
  const sourceWork = openConfined({ file: options.confined }, SOURCE_WORK, stretch);
  const rehearsalWork = openConfined({ file: options.confined }, REHEARSAL_WORK, stretch);
  const ending = new AbortController();
  const septima: Septima = {
    db,
    config: {
      version: options.version,
      data,
      origin: options.origin,
      readers: options.readers,
      standins: options.standins,
      relay: options.relayUrl ?? null,
      postroom: postroom?.address ?? null,
      key: options.key,
      returns: options.returns,
      dns: options.dns,
    },
    schema,
    worker: {
      name: `${hostname()} ${process.pid} ${randomBytes(4).toString("hex")}`,
      lease: options.lease ?? LEASE,
    },
    relay: openChosenRelay(() => septima),
    confined,
    pictureWork,
    sourceWork,
    rehearsalWork,
    files: options.filesInDatabase ? filesInDatabase(db, data) : folderOfFiles(data),
    jobs,
    mailboxes: postroom,
    news: await openNews(db),
    now: () => Date.now() + AHEAD,
    newId: () => randomBytes(8).toString("hex"),
    cache: new Map(),
    stopping: ending.signal,
  };
  if (options.databaseUrl) await hearChanges(septima);
  const door = options.door
    ? await openDoor(() => septima, { ...hostAndPort(options.door), via: "door" })
    : null;
  if (door) say(`What comes back is taken in at ${door.address}`);
  const unreachable = outOfReach({ origin: options.readers, from: await mailGoes(septima) });
  if (unreachable) say(`Nothing will be sent: ${unreachable}`);
  return {
    septima,
    started() {
      starting = false;
    },
    async stop(dispatching) {
      const sending = dispatching?.running ?? 0;
      if (sending > 0)
        say(
          `Waiting up to 30 s for what ${sending === 1 ? "a sending is" : `${sending} sendings are`} handing over`,
        );
      ending.abort();
      await Promise.race([dispatching?.ended, sleep(STOP_WAIT, undefined, { ref: false })]);
      await jobs.stop();
      await confined.close();
      await pictureWork.close();
      await sourceWork.close();
      await rehearsalWork.close();
      await septima.relay.close();
      await postroom?.close();
      await ownDoor?.close();
      await door?.close();
      await db.close();
      await unlock?.();
    },
  };
}

/** @throws StartError when it is not `host:port` */
function hostAndPort(words: string): { host: string; port: number } {
  const [, host, port] = /^(?:(.+):)?(\d{1,5})$/.exec(words) ?? [];
  if (port === undefined)
    throw new StartError(`“${words}” is no host:port for what comes back (SEPTIMA_RETURNS).`);
  return { host: host ?? "127.0.0.1", port: Number(port) };
}

const CARRIERS: Carriers = {
  clipping: (world, { clipping }) => carryClipping(world, clipping),
  picture: (world, { picture, scheduled }) => showEverywhere(world, picture, { scheduled }),
  template: carryTemplate,
};

/**
 * Starts the work that goes on by itself: dispatches, refreshing the sources every ten minutes, the bin and the sizes of
 * groups every night.
 * @param alone whether no other process works on the same data
 */
export async function startWork(
  septima: Septima,
  alone: boolean,
  report: (error: unknown) => void,
): Promise<Dispatching> {
  // What another process has in hand is let be, unless there can be no other.
  if (alone) await endLeases(septima);
  const dispatching = startDispatching(septima, report);
  // Also those that waited for codes, or for the relay.
  await septima.jobs.work(REWARD_JOB, () => giveRewards(septima));
  await septima.jobs.repeat(REWARD_JOB, "*/10 * * * *");
  await septima.jobs.work(REHEARSE_JOB, ({ campaign }) => rehearse(septima, campaign));
  await septima.jobs.work("refresh-sources", () => refreshDue(septima));
  await septima.jobs.repeat("refresh-sources", "* * * * *");
  // Once at the start, for those that became due meanwhile; nothing waits for it.
  await septima.jobs.ask("refresh-sources", {});
  void readMissingWords(septima).catch(() => undefined);
  // So is what was to reach many designs and has not reached all.
  const carry = (nobodyElse: boolean) => finishCarrying(septima, CARRIERS, nobodyElse);
  await carry(alone);
  // An import that a process left in the middle is taken back.
  await settleChanges(septima, alone);
  await septima.jobs.work("settle-changes", async () => {
    await settleChanges(septima, false);
    await carry(false);
  });
  await septima.jobs.repeat("settle-changes", "* * * * *");
  await septima.jobs.work("take-returned", async () => {
    await takeFolder(septima);
  });
  await septima.jobs.repeat("take-returned", "* * * * *");
  if (!alone) {
    await septima.jobs.work("event-months", () => keepMonths(septima.db, septima.now()));
    await septima.jobs.repeat("event-months", "20 2 * * *");
    await septima.jobs.ask("event-months", {});
  }
  await septima.jobs.work("record-sizes", () => recordSizes(septima));
  await septima.jobs.repeat("record-sizes", "40 3 * * *");
  await septima.jobs.ask("record-sizes", {});
  await septima.jobs.work("empty-bin", async () => {
    await emptyBin(septima);
    await clearComing(septima);
    await clearFiles(septima);
    await forgetReturned(septima);
    await forgetBatches(septima);
  });
  await septima.jobs.repeat("empty-bin", "17 3 * * *");
  return dispatching;
}
