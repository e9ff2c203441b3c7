import { z } from "zod";
import { type Article, ArticleSchema, type LiveContent } from "~/core/sources";
import { fetchFor, resolveAddress } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { withSizes } from "./sizes";

/** Where live content comes from, and how it is. */
export interface Source {
  id: string;
  name: string;
  address: string;
  articles: Article[];
  /** What was odd about the last good copy. */
  problems: string[];
  /** ISO times; `failure` says what went wrong at `failedAt`, if that is later than `refreshedAt`. */
  refreshedAt: string | null;
  failedAt: string | null;
  failure: string | null;
}

interface SourceRow {
  id: string;
  name: string;
  address: string;
  articles: unknown;
  problems: unknown;
  refreshed_at: Date | null;
  failed_at: Date | null;
  failure: string | null;
}

function readSource(row: SourceRow): Source {
  return {
    id: row.id,
    name: row.name,
    address: row.address,
    articles: z.array(ArticleSchema).parse(row.articles),
    problems: z.array(z.string()).parse(row.problems),
    refreshedAt: row.refreshed_at?.toISOString() ?? null,
    failedAt: row.failed_at?.toISOString() ?? null,
    failure: row.failure,
  };
}

/** How many sources are fetched side by side. */
const AT_ONCE = 8;

/** All sources by name. */
export async function sources(septima: Septima): Promise<Source[]> {
  return (
    await septima.db.query<SourceRow>("select * from sources where deleted_at is null order by name")
  ).map(readSource);
}

/** What the sources hold now, as blocks are filled with it. */
export async function liveContent(septima: Septima): Promise<LiveContent> {
  return new Map((await sources(septima)).map((source) => [source.id, source.articles]));
}

async function load(septima: Septima, address: string, before?: readonly Article[]) {
  const resolved = resolveAddress(septima, address);
  const feed = await septima.confined.run("feed", await fetchFor(septima, resolved), resolved);
  return { ...feed, articles: await withSizes(septima, feed.articles, before) };
}

/**
 * Adds a feed once it could be read.
 * @throws Refusal that says why it could not; then nothing is added
 */
export async function addFeed(septima: Septima, address: string, name?: string): Promise<string> {
  const feed = await load(septima, address.trim());
  const id = septima.newId();
  await septima.db.query(
    `insert into sources (id, name, kind, address, articles, problems, refreshed_at, created_at)
     values ($1, $2, 'feed', $3, $4::jsonb, $5::jsonb, $6, $6)`,
    [
      id,
      name || feed.title || address,
      address.trim(),
      JSON.stringify(feed.articles),
      JSON.stringify(feed.problems),
      new Date(septima.now()),
    ],
  );
  return id;
}

/**
 * Fetches a source again. When that fails, the last good copy stays and the failure is noted beside it.
 * @returns the failure in words, or null
 */
export async function refreshSource(septima: Septima, id: string): Promise<string | null> {
  const [row] = await septima.db.query<SourceRow>("select * from sources where id = $1", [id]);
  if (!row) throw new Refusal("This source does not exist any more.", 404);
  const at = new Date(septima.now());
  try {
    const feed = await load(septima, row.address, readSource(row).articles);
    await septima.db.query(
      "update sources set articles = $2::jsonb, problems = $3::jsonb, refreshed_at = $4, failed_at = null, failure = null where id = $1",
      [id, JSON.stringify(feed.articles), JSON.stringify(feed.problems), at],
    );
    return null;
  } catch (error) {
    // Whatever a feed holds, it must not end the work for the others.
    const words =
      error instanceof Refusal ? error.message : `It could not be read (${(error as Error).message}).`;
    // It may quote the feed, which may hold anything.
    const failure = words.replace(/\p{Cc}+/gu, " ").toWellFormed();
    await septima.db.query("update sources set failed_at = $2, failure = $3 where id = $1", [
      id,
      at,
      failure,
    ]);
    return failure;
  }
}

/**
 * Fetches sources side by side, each within its own limits: one that hangs delays no other.
 * @param ids which; all when missing
 */
export async function refreshAll(septima: Septima, ids?: readonly string[]): Promise<void> {
  const rows = await septima.db.query<{ id: string }>(
    "select id from sources where deleted_at is null and ($1::text[] is null or id = any($1)) order by id",
    [ids ?? null],
  );
  let next = 0;
  const worker = async () => {
    while (next < rows.length) await refreshSource(septima, rows[next++].id);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
}

/** Changes where a source is fetched from; the copy at hand stays until the new address has answered. */
export async function moveSource(septima: Septima, id: string, address: string): Promise<string | null> {
  await septima.db.query("update sources set address = $2 where id = $1", [id, address.trim()]);
  return refreshSource(septima, id);
}
