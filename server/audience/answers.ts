/**
 * What a whole audience answers: each distinct test once, as a set with one bit for each contact. Rules, counts and
 * editions are put together from them. Contacts pass by in stretches, to be asked what their own fields can answer;
 * a few tests, who is on a list and what they did are asked of the database. Nobody stays in memory but by their bit.
 */
import {
  type AtomicRule,
  type AudienceContext,
  Bits,
  type Contact,
  didSetSql,
  factIn,
  lacksField,
  predicate,
  type RecordFacts,
  type Rule,
  testsIn,
  toSql,
  whoMeets,
  withFacts,
} from "~/core/audience";
import { hasWords } from "~/core/personal";
import { cached, type Septima } from "../septima";

/** What can be asked of every contact of an audience. */
export type Ask =
  | AtomicRule
  /** Whether a tag has something to write. */
  | { kind: "writes"; field: string }
  /** Whether nothing is stored. */
  | { kind: "lacks"; field: string }
  /** Whether this is the language of their own. */
  | { kind: "speaks"; language: string };

/** The answers to what was asked. */
export interface Answered {
  /** The subscribed contacts, by their numbers. */
  everyone: Bits;
  /** Who of them says yes. @throws Error when it was not asked */
  yes(ask: Ask): Bits;
  /** Who of them meets a rule whose tests were asked. @throws RuleError */
  meets(rule: Rule): Bits;
}

/** What is known of an audience until it changes. */
interface Known {
  size: number;
  everyone: Bits | null;
  answers: Map<string, Bits>;
}

/** So many answers are kept; of a million contacts each takes 125 KB. */
const KEPT = 400;

/** Stands for the audience as it is now: another one once it has changed. */
export function audienceNow(septima: Septima): Promise<object> {
  return known(septima);
}

function known(septima: Septima): Promise<Known> {
  return cached(septima, "answers", async () => {
    const [row] = await septima.db.query<{ last: number }>(
      "select coalesce(max(id), 0)::int as last from contacts",
    );
    return { size: row.last + 1, everyone: null, answers: new Map() };
  });
}

/** So many languages are told apart. */
const LANGUAGES = 200;

/** The languages that subscribed contacts have for their own, as they are stored. */
export function languagesOf(septima: Septima): Promise<string[]> {
  return cached(septima, "languages", async () => {
    const rows = await septima.db.query<{ language: string }>(
      `select distinct fields ->> 'language' as language from contacts
       where status = 'subscribed' and jsonb_typeof(fields -> 'language') = 'string' and fields ->> 'language' <> ''
       order by 1 limit ${LANGUAGES}`,
    );
    return rows.map(({ language }) => language);
  });
}

/** Called after contacts, lists, segments, fields or records have changed. */
export function audienceChanged(septima: Septima): void {
  for (const key of ["answers", "languages", "audience context", "record tables", "record facts"])
    septima.cache.delete(key);
}

/** Called after contacts did something, or were sent something: only what was asked of that is forgotten. */
export function behaviourChanged(septima: Septima): void {
  const audience = septima.cache.get("answers") as Promise<Known> | undefined;
  if (!audience) return;
  const forget = ({ answers }: Known) => {
    for (const key of answers.keys()) if (key.includes(DID)) answers.delete(key);
  };
  audience.then(forget, () => undefined);
}

/** What the key of an answer about behaviour has after the day. */
const DID = " did ";

/**
 * Asks the audience; what it has answered already since it changed is not asked again.
 * @param rules whose tests are asked, too
 * @throws RuleError when a segment is missing or refers to itself
 */
export async function askAudience(
  septima: Septima,
  context: AudienceContext,
  rules: readonly Rule[],
  asks: readonly Ask[] = [],
): Promise<Answered> {
  const audience = await known(septima);
  // What is relative to a day is another question on the next.
  const keyOf = (ask: Ask) => `${context.today} ${ask.kind} ${JSON.stringify(ask)}`;
  const wanted = new Map<string, Ask>();
  for (const ask of [...rules.flatMap((rule) => testsIn(rule, context)), ...asks])
    wanted.set(keyOf(ask), ask);
  const missing = [...wanted].filter(([key]) => !audience.answers.has(key));
  const found = new Map([...audience.answers].filter(([key]) => wanted.has(key)));
  const passing = missing.filter(([, ask]) => !isMembership(ask));
  let all = audience.everyone;
  if (all === null || passing.length > 0) {
    const asked = passing.map(([, ask]) => ask);
    const few = asked.length <= IN_LETTER && asked.every(isRule);
    const [subscribed, ...answers] = few
      ? await askInSql(septima, audience.size, asked.filter(isRule), context)
      : await passBy(septima, audience.size, asked, context);
    all = subscribed;
    audience.everyone = subscribed;
    for (const [index, [key]] of passing.entries()) found.set(key, answers[index]);
  }
  const everyone = all;
  // A server works on several at once.
  await Promise.all(
    missing.map(async ([key, ask]) => {
      if (isMembership(ask)) found.set(key, await members(septima, audience.size, ask, context, everyone));
    }),
  );
  for (const [key] of missing) audience.answers.set(key, found.get(key)!);
  for (const key of audience.answers.keys()) {
    if (audience.answers.size <= KEPT) break;
    audience.answers.delete(key);
  }
  const yes = (ask: Ask) => {
    const answer = found.get(keyOf(ask));
    if (!answer) throw new Error(`not asked: ${JSON.stringify(ask)}`);
    return answer;
  };
  return { everyone, yes, meets: (rule) => whoMeets(rule, context, everyone, yes) };
}

/** What a contact answers by their own fields. */
function testOf(ask: Ask, context: AudienceContext): (contact: Contact) => boolean {
  switch (ask.kind) {
    case "writes":
      return (contact) => hasWords(ask.field, contact);
    case "lacks":
      return (contact) => lacksField(contact, ask.field);
    case "speaks":
      return ({ fields }) => fields.language === ask.language;
    default:
      return predicate(ask, context);
  }
}

type Membership = Extract<AtomicRule, { kind: "list" | "did" | "status" }>;

/** Whether the answer is a set that the database has: contacts need not pass by. */
const isMembership = (ask: Ask): ask is Membership =>
  ask.kind === "list" || ask.kind === "did" || ask.kind === "status";

/** Who is on a list, or did something; or is not, or did not. */
async function members(
  septima: Septima,
  size: number,
  ask: Membership,
  context: AudienceContext,
  everyone: Bits,
): Promise<Bits> {
  // Everybody who is asked is subscribed.
  if (ask.kind === "status") return ask.status === "subscribed" ? everyone : everyone.without(everyone);
  const set =
    ask.kind === "did"
      ? didSetSql(ask, context)
      : {
          sql: "select contact_id from list_members join lists l on l.id = list_id where list_id = $1 and l.deleted_at is null",
          params: [ask.list],
          others: !ask.in,
        };
  if (set === null) return everyone;
  const found = Bits.none(size);
  const [row] = await septima.db.query<{ ids: string | null }>(
    `select string_agg(contact_id::text, ',') as ids from (${set.sql}) found`,
    set.params,
  );
  let number = 0;
  const ids = row.ids ?? "";
  for (let at = 0; at <= ids.length; at++) {
    const code = ids.charCodeAt(at);
    if (code >= 48) {
      number = number * 10 + code - 48;
      continue;
    }
    if (number > 0 && number < size) found.add(number);
    number = 0;
  }
  return set.others ? everyone.without(found) : found.and(everyone);
}

const isRule = (ask: Ask): ask is AtomicRule => !/^(writes|lacks|speaks)$/.test(ask.kind);

/** How long a stretch should take, in milliseconds: whoever else asks waits so long at most. */
const STRETCH = 40;
/** So many numbers are asked for at first, at least and at most. */
const NUMBERS = { first: 1000, least: 250, most: 20_000 };
/** So many stretches are under way: while one is read, the database is at the next. */
const AT_ONCE = 3;

/** Does something for all numbers, in stretches that take about as long, and lets others have their turn. */
async function inStretches(size: number, work: (from: number, to: number) => Promise<void>): Promise<void> {
  let next = 0;
  let count = NUMBERS.first;
  const worker = async () => {
    while (next < size) {
      const from = next;
      const to = Math.min(size, from + count) - 1;
      next = to + 1;
      const begun = performance.now();
      await work(from, to);
      const each = Math.max(1, (performance.now() - begun) / AT_ONCE);
      count = Math.min(
        NUMBERS.most,
        Math.max(NUMBERS.least, Math.round(count * Math.min(4, STRETCH / each))),
      );
      await new Promise((resolve) => setImmediate(resolve));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
}

/** So many answers are one letter: more are asked in another way. */
const IN_LETTER = 5;

/**
 * Asks a few tests in the database: the quicker way for those. Of every contact comes the number, and a letter for the
 * answers, from `@` for only no.
 * @returns as `passBy`
 */
async function askInSql(
  septima: Septima,
  size: number,
  rules: readonly AtomicRule[],
  context: AudienceContext,
): Promise<Bits[]> {
  const params: unknown[] = [];
  const letter = rules.map((rule, at) => {
    const condition = toSql(rule, context, 2 + params.length);
    params.push(...condition.params);
    return `${condition.sql}::int * ${1 << at}`;
  });
  const sql = `select string_agg((c.id - $1::int)::text || chr(64 + ${["0", ...letter].join(" + ")}), '') as said
    from contacts c where c.id between $1::int and $2::int and c.status = 'subscribed'`;
  const everyone = Bits.none(size);
  const found = rules.map(() => Bits.none(size));
  await inStretches(size, async (from, to) => {
    const [{ said }] = await septima.db.query<{ said: string | null }>(sql, [from, to, ...params]);
    let number = 0;
    for (let at = 0; at < (said?.length ?? 0); at++) {
      const code = said!.charCodeAt(at);
      if (code < 64) {
        number = number * 10 + code - 48;
        continue;
      }
      everyone.add(from + number);
      for (let yes = code - 64, ask = 0; yes !== 0; yes >>= 1, ask++)
        if (yes & 1) found[ask].add(from + number);
      number = 0;
    }
  });
  return [everyone, ...found];
}

/** So many different values of a field are remembered with their answers. */
const REMEMBERED = 10_000;

/** What is asked about one field: the answers depend on its value alone, and most contacts share theirs with others. */
class FieldAsked {
  private readonly known = new Map<unknown, readonly Bits[]>();
  private readonly asked: { test: (contact: Contact) => boolean; yes: Bits }[] = [];

  constructor(
    private readonly field: string,
    private readonly records: RecordFacts,
  ) {}

  add(test: (contact: Contact) => boolean, yes: Bits): void {
    this.asked.push({ test, yes });
  }

  /** Adds a contact to all who say yes. */
  take(id: number, email: string, fields: Contact["fields"]): void {
    const value = this.field === "email" ? email : fields[this.field];
    // No stored text has a NUL.
    const key = typeof value === "object" ? `\u0000${JSON.stringify(value)}` : value;
    let yes = this.known.get(key);
    if (!yes) {
      const own = value === undefined ? {} : { [this.field]: value };
      const contact: Contact = { id, email, fields: withFacts(own, this.records), lists: [] };
      yes = this.asked.filter(({ test }) => test(contact)).map((one) => one.yes);
      if (this.known.size >= REMEMBERED) this.known.clear();
      this.known.set(key, yes);
    }
    for (const bits of yes) bits.add(id);
  }
}

/**
 * Lets all subscribed contacts pass by, and asks each everything. A stretch comes as one text of JSON, which is several
 * times quicker than rows.
 * @returns who is subscribed, then who says yes to each
 */
async function passBy(
  septima: Septima,
  size: number,
  asks: readonly Ask[],
  context: AudienceContext,
): Promise<Bits[]> {
  const everyone = Bits.none(size);
  const found = asks.map(() => Bits.none(size));
  const byField = new Map<string, FieldAsked>();
  for (const [at, ask] of asks.entries()) {
    const named = "field" in ask ? ask.field : "language";
    const field = factIn(named)?.field ?? named;
    const asked = byField.get(field) ?? new FieldAsked(field, context.records ?? new Map());
    byField.set(field, asked);
    asked.add(testOf(ask, context), found[at]);
  }
  const fields = [...byField.values()];
  const email = byField.has("email") ? "to_json(c.email)::text" : "'\"\"'";
  await inStretches(size, async (from, to) => {
    const [{ said }] = await septima.db.query<{ said: string | null }>(
      `select string_agg('[' || c.id || ',' || ${email} || ',' || c.fields::text || ']', ',') as said
       from contacts c where c.id between $1::int and $2::int and c.status = 'subscribed'`,
      [from, to],
    );
    const passing = JSON.parse(`[${said ?? ""}]`) as [number, string, Contact["fields"]][];
    for (const [id, address, own] of passing) {
      everyone.add(id);
      for (const field of fields) field.take(id, address, own);
    }
  });
  return [everyone, ...found];
}
