/** Lists that are picked for each reader, with all there is to pick from. */
import type { Contact } from "~/core/audience";
import { listAsks, placedIn } from "~/core/blocks";
import type { Email } from "~/core/email";
import type { Item } from "~/core/items";
import type { World } from "~/core/personal";
import {
  becauseWords,
  type ItemNews,
  itemKey,
  type ListAsk,
  looksAt,
  NOTHING_DONE,
  type Past,
  type PickedList,
  pickLists,
} from "~/core/picking";
import { audienceNow, behaviourNow } from "../audience/answers";
import { contactsById } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { type Selection, selectedReaders } from "../audience/selection";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";
import { marketNow, newsOf, pastsOf } from "./did";
import { allItems } from "./items";
import { sinceLast } from "./since";

/** The lists of a design, to be bound with it. */
export interface Picks {
  of: NonNullable<World["picks"]>;
  /**
   * Looks up what these readers got before, where a list asks; forgets those looked up earlier. To be called before they
   * are asked for, who was not looked up counts as one who got nothing.
   */
  ready(db: Queries, readers: readonly number[]): Promise<void>;
  /** All that a reader gets. */
  items(reader: Contact): Item[];
  /** Up to where sources were seen of which only what is new is asked for. */
  marks: Readonly<Record<string, string>>;
}

const NONE: Picks = { of: () => undefined, ready: async () => undefined, items: () => [], marks: {} };

/**
 * What the lists of a design pick from now.
 * @param campaign makes orders at random those of this campaign
 */
export async function picksFor(septima: Septima, email: Email, campaign: string): Promise<Picks> {
  return picksOf(septima, { asks: listAsks(email), placed: placedIn(email), campaign });
}

/** The same of lists by themselves, with what stands beside them. */
export async function picksOf(
  septima: Septima,
  { asks, placed, campaign }: { asks: readonly ListAsk[]; placed: readonly string[]; campaign: string },
): Promise<Picks> {
  if (asks.length === 0) return NONE;
  // Before the items themselves: what comes between is new the next time.
  const fresh = await sinceLast(septima, asks, campaign);
  const sources = new Map<string, readonly Item[]>();
  for (const { source } of asks)
    if (!sources.has(source)) sources.set(source, await allItems(septima, source));
  const needs = asks.map(looksAt);
  const market = needs.some((need) => need.market)
    ? await marketNow(
        septima,
        asks.flatMap(({ ways }) => ways.flatMap(({ field }) => field ?? [])),
      )
    : undefined;
  const news = new Map<string, ItemNews[]>();
  for (const { source, ways } of asks)
    if (ways.some(({ by }) => by === "back" || by === "dropped"))
      news.set(source, await newsOf(septima, source));
  let did: ReadonlyMap<number, Past> = new Map();
  const farthest = Math.max(...asks.map(({ unsent }) => unsent));
  let got: Got = new Map();
  const lists = pickLists(asks, {
    items: (source) => sources.get(source) ?? [],
    placed: new Set(placed),
    audience: await audienceContext(septima),
    seed: campaign,
    fresh: fresh.of,
    had: ({ id }: Contact, campaigns) => new Set((got.get(id) ?? []).slice(0, campaigns).flat()),
    ...(market && { market }),
    past: ({ id }) => did.get(id) ?? NOTHING_DONE,
    news: (source) => news.get(source) ?? [],
  });
  const known = new Map<string, PickedList>(asks.map((ask, at) => [JSON.stringify(ask), lists[at]]));
  return {
    of: (ask) => known.get(JSON.stringify(ask)),
    async ready(db, readers) {
      if (farthest > 0) got = await gotBy(septima, db, readers, farthest);
      if (needs.some((need) => need.past)) did = await pastsOf(septima, db, readers);
    },
    marks: fresh.marks,
    items: (reader) => lists.flatMap(({ items, pick }) => pick(reader).map(({ at }) => items[at])),
  };
}

/** By the reader: what each of their last campaigns held for them, the newest first, as `itemKey` tells items. */
type Got = Map<number, string[][]>;

async function gotBy(
  septima: Septima,
  db: Queries,
  readers: readonly number[],
  campaigns: number,
): Promise<Got> {
  const rows = await db.query<{ reader: number; dispatch: string; facts: Record<string, unknown> | null }>(
    `select reader, dispatch, facts from unnest($1::int[]) as reader
     cross join lateral (
       select dispatch_id as dispatch, facts::json as facts, handed_at from recipients
       where contact_id = reader and handed_at is not null order by handed_at desc limit $2
     ) last order by reader, handed_at desc`,
    [readers, campaigns],
  );
  const held = await heldBy(septima, db, new Set(rows.map(({ dispatch }) => dispatch)));
  const got: Got = new Map();
  for (const { reader, dispatch, facts } of rows) {
    const { placed, lists } = held.get(dispatch) ?? { placed: [], lists: [] };
    const picked = lists.flatMap(({ source, ids }, at) =>
      ((facts?.[`list.${at}`] ?? []) as [number, number][]).map(([item]) => itemKey(source, ids[item])),
    );
    got.set(reader, [...(got.get(reader) ?? []), [...placed, ...picked]]);
  }
  return got;
}

/** What a dispatch held for all its readers, and what its lists had to choose from. */
interface Held {
  placed: string[];
  lists: { source: string; ids: string[] }[];
}

/** What dispatches held; they do not change any more, so each is looked up once. */
async function heldBy(
  septima: Septima,
  db: Queries,
  dispatches: ReadonlySet<string>,
): Promise<Map<string, Held>> {
  const known = (septima.cache.get("held by dispatches") ?? new Map()) as Map<string, Held>;
  septima.cache.set("held by dispatches", known);
  const missing = [...dispatches].filter((id) => !known.has(id));
  if (missing.length === 0) return known;
  const rows = await db.query<{ id: string; placed: string[] | null; lists: Held["lists"] | null }>(
    `select id, frozen -> 'placed' as placed,
       (select jsonb_agg(jsonb_build_object('source', l -> 'ask' -> 'source', 'ids', jsonb_path_query_array(l, '$.items[*].id')) order by at)
        from jsonb_array_elements(frozen -> 'program' -> 'lists') with ordinality as of (l, at)) as lists
     from dispatches where id = any($1)`,
    [missing],
  );
  for (const { id, placed, lists } of rows) known.set(id, { placed: placed ?? [], lists: lists ?? [] });
  return known;
}

/** What a list gives one reader: the items alone, each with the way that led there. */
export interface PickedFor {
  block: string;
  items: Item[];
  ways: number[];
  /** Why, in words; empty for a way that follows from nothing anybody did. */
  because: string[];
}

/** What lists give a reader now. */
export async function pickedFor(
  septima: Septima,
  lists: Parameters<typeof picksOf>[1],
  reader: Contact,
): Promise<PickedFor[]> {
  const picks = await picksOf(septima, lists);
  await picks.ready(septima.db, [reader.id]);
  return lists.asks.map((ask) => {
    const { items = [], pick } = picks.of(ask) ?? {};
    const picked = pick?.(reader) ?? [];
    return {
      block: ask.block,
      items: picked.map(({ at }) => items[at]),
      ways: picked.map(({ way }) => way),
      because: picked.map(({ because }) => (because ? becauseWords(because) : "")),
    };
  });
}

/** How many readers a list gives nothing, and how many less than it is asked for. */
export interface PickNumbers {
  block: string;
  /** How many items it is asked for. */
  asked: number;
  readers: number;
  none: number;
  fewer: number;
}

/** So many readers are looked at before others have their turn. */
const STRETCH = 5000;

/** So many answers are remembered. */
const REMEMBERED = 12;

/**
 * What lists give the selected readers, in numbers; remembered while readers, what they did and the sources are the same.
 * @throws RuleError as `selectedReaders`
 */
export async function pickNumbers(
  septima: Septima,
  lists: Parameters<typeof picksOf>[1],
  selection: Selection,
): Promise<PickNumbers[]> {
  if (lists.asks.length === 0) return [];
  const [sources] = await septima.db.query<{ state: string }>(
    `select concat_ws(' ', max(changed_at), count(*), (select max(gathered_at) from dispatches)) as state
     from sources where deleted_at is null`,
  );
  const state = [await audienceNow(septima), await behaviourNow(septima), sources.state];
  type Known = { state: unknown[]; answers: Map<string, Promise<PickNumbers[]>> };
  let known = septima.cache.get("pick numbers") as Known | undefined;
  if (!known?.state.every((it, at) => it === state[at])) known = { state, answers: new Map() };
  septima.cache.set("pick numbers", known);
  const { answers } = known;
  const { today } = await audienceContext(septima);
  const key = JSON.stringify([lists, selection, today]);
  const answer = answers.get(key) ?? countPicks(septima, lists, selection);
  answers.set(key, answer);
  answer.catch(() => answers.delete(key));
  for (const old of [...answers.keys()].slice(0, -REMEMBERED)) answers.delete(old);
  return answer;
}

async function countPicks(
  septima: Septima,
  lists: Parameters<typeof picksOf>[1],
  selection: Selection,
): Promise<PickNumbers[]> {
  const picks = await picksOf(septima, lists);
  const { readers } = await selectedReaders(septima, selection, [], []);
  const ids = [...readers];
  const numbers = lists.asks.map(({ block, count }) => ({
    block,
    asked: count,
    readers: ids.length,
    none: 0,
    fewer: 0,
  }));
  for (let from = 0; from < ids.length; from += STRETCH) {
    const contacts = await contactsById(septima, ids.slice(from, from + STRETCH));
    await picks.ready(septima.db, [...contacts.keys()]);
    for (const contact of contacts.values())
      for (const [at, ask] of lists.asks.entries()) {
        const count = picks.of(ask)?.pick(contact).length ?? 0;
        if (count === 0) numbers[at].none++;
        else if (count < ask.count) numbers[at].fewer++;
      }
  }
  return numbers;
}
