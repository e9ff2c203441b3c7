/** What refers to what: kept in one table, beside each thing that refers, and asked for in one way. */
import type { Rule } from "~/core/audience";
import { parseEmail } from "~/core/blocks";
import { type Mention, type MentionKind, mentionsIn } from "~/core/compose";
import type { Queries } from "./db/database";

/** What can refer to something, as it is given to be looked through. */
interface Holding {
  /** The design of a campaign or template. */
  design: unknown;
  /** Whom a campaign goes to. */
  readers: { include: readonly Group[]; exclude: readonly Group[] };
  version: unknown;
  clipping: unknown;
  lookup: { cases: readonly { when: Rule; value: unknown }[]; otherwise: unknown };
  segment: Rule;
  /** Such as the brand, or the programme of referrals. */
  setting: unknown;
  dispatch: { email: unknown; readers: Holding["readers"] };
}
export type Holder = keyof Holding;
type Group = { kind: string; id: string };

/** What each refers to; what is named twice may be there twice. */
const READ: { [H in Holder]: (it: Holding[H]) => readonly Mention[] } = {
  design: mentionsIn,
  readers: ({ include, exclude }) =>
    [...include, ...exclude].flatMap(({ kind, id: key }) =>
      kind === "list" || kind === "segment" ? [{ kind, key }] : [],
    ),
  version: mentionsIn,
  clipping: mentionsIn,
  lookup: ({ cases, otherwise }) =>
    mentionsIn([
      cases.map(({ when }) => ({ show: when })),
      // What they say may hold tags that were typed, the text of one as well.
      [...cases.map(({ value }) => value), otherwise].flatMap((value) => Object.values(Object(value))),
    ]),
  segment: (rule) => mentionsIn({ show: rule }),
  setting: (value) => {
    const { list = "" } = Object(value) as { list?: string };
    return [...mentionsIn(value), ...(list === "" ? [] : [{ kind: "list" as const, key: list }])];
  },
  dispatch: ({ email, readers }) => [...mentionsIn(email), ...READ.readers(readers)],
};

/** Keeps what something refers to, in place of what it referred to before. */
export async function keepMentions<H extends Holder>(
  db: Queries,
  holder: H,
  which: string,
  it: Holding[H],
): Promise<void> {
  const mentions = READ[holder](it);
  await db.query(
    `with given as (select * from unnest($3::text[], $4::text[]) as g (kind, key)),
       gone as (delete from mentions m where holder = $1 and which = $2
         and not exists (select 1 from given g where g.kind = m.kind and g.key = m.key))
     insert into mentions (holder, which, kind, key) select $1, $2, kind, key from given on conflict do nothing`,
    [holder, which, mentions.map(({ kind }) => kind), mentions.map(({ key }) => key)],
  );
}

/** Where each of them is kept: its key, and itself. */
const KEPT: { [H in Holder]: { from: string; key: string; it: string } } = {
  design: { from: "campaigns", key: "id", it: "email" },
  readers: { from: "campaigns", key: "id", it: "readers" },
  version: { from: "versions", key: "id", it: "email" },
  clipping: { from: "clippings", key: "id", it: "node" },
  lookup: {
    from: "lookups",
    key: "key",
    it: "jsonb_build_object('cases', cases, 'otherwise', otherwise)",
  },
  segment: { from: "segments", key: "id", it: "rule" },
  setting: { from: "settings", key: "key", it: "value" },
  dispatch: {
    from: "dispatches",
    key: "id",
    it: "jsonb_build_object('email', email, 'readers', readers)",
  },
};

/** A design as this program reads it; one that it cannot read as it is kept. */
function asRead(email: unknown): unknown {
  try {
    return parseEmail(email);
  } catch {
    return email;
  }
}

/** Everything there is that may refer to something, read anew. */
async function* everyHolder(db: Queries): AsyncGenerator<[Holder, string, never]> {
  for (const [holder, { from, key, it }] of Object.entries(KEPT) as [Holder, (typeof KEPT)[Holder]][]) {
    const all = await db.query<{ which: string }>(`select ${key} as which from ${from}`);
    for (const { which } of all) {
      const [row] = await db.query<{ it: unknown }>(
        `select * from (select ${key} as which, ${it} as it from ${from}) all_of_them where which = $1`,
        [which],
      );
      if (row) yield [holder, which, (it === "email" ? asRead(row.it) : row.it) as never];
    }
  }
}

/** Fills the table from all that is there: once, when a workspace comes from before there was one. */
export async function fillMentions(db: Queries): Promise<void> {
  for await (const [holder, which, it] of everyHolder(db)) await keepMentions(db, holder, which, it);
}

/** What the table should hold, by a walk through everything. */
export async function walkMentions(db: Queries): Promise<(Mention & { holder: Holder; which: string })[]> {
  const found: (Mention & { holder: Holder; which: string })[] = [];
  for await (const [holder, which, it] of everyHolder(db))
    found.push(...READ[holder](it).map((mention) => ({ holder, which, ...mention })));
  return found;
}

/** Something that refers to what was asked for, and what readers get of it can change or not. */
export interface Use {
  kind: "campaign" | "template" | "segment" | "lookup" | "clipping" | "brand" | "referrals";
  /** Of a campaign, a template, a segment or a clipping; the key of a lookup. */
  id: string;
  name: string;
  /** What of that which was asked for it refers to. */
  keys: string[];
  /** Whether readers have it, or are getting it. */
  sent: boolean;
  /** When it goes, where it is scheduled. */
  scheduled: { at: string; zone: string } | null;
  /** Whether it was ordered: one that was sent, is on its way or waits for its time stays as it is. */
  held: boolean;
}

/** What refers to any of some things of a kind and is not deleted: what can still change first, then by name. */
export function usesOf(db: Queries, kind: MentionKind, keys: readonly string[]): Promise<Use[]> {
  return db.query<Use>(
    `with named as (
       select case holder when 'readers' then 'design' else holder end as holder, which, array_agg(distinct key) as keys
       from mentions where kind = $1 and key = any ($2::text[]) and holder not in ('version', 'dispatch') group by 1, 2)
     select u.kind, u.id, u.name, n.keys,
       coalesce(d.sent, false) as sent, case when not d.sent then d.scheduled end as scheduled,
       d.sent is not null as held
     from named n join (
       select 'design' as holder, id, kind, name, 1 as place from campaigns where deleted_at is null
       union all select 'segment', id, 'segment', name, 2 from segments where deleted_at is null
       union all select 'lookup', key, 'lookup', name, 3 from lookups
       union all select 'clipping', id, 'clipping', name, 4 from clippings where deleted_at is null
       union all select 'setting', key, key, coalesce(value ->> 'name', value ->> 'title'), 5 from settings
         where key in ('brand', 'referrals')
     ) u on u.holder = n.holder and u.id = n.which
     left join lateral (
       select bool_or(a.state <> 'scheduled') as sent,
         min(jsonb_build_object('at', b.goes_at, 'zone', b.zone)::text)::jsonb as scheduled
       from dispatches a join bookings b on b.id = a.booking_id
       where n.holder = 'design' and a.campaign_id = n.which and a.state <> 'cancelled' having count(*) > 0
     ) d on true
     order by u.place, u.kind, coalesce(d.sent, false), lower(u.name), u.id`,
    [kind, keys],
  );
}
