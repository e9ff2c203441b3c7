/**
 * What a whole audience answers: each distinct test once, as a set with one bit for each contact. Rules, counts and
 * editions are put together from them. What their own fields can answer is asked of columns (`columns.ts`); who is on a
 * list and what they did, of the database. Nobody stays in memory but by their bit.
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
  type Rule,
  testsIn,
  whoMeets,
  withFacts,
} from "~/core/audience";
import { hasWords } from "~/core/personal";
import { cached, type Septima } from "../septima";
import { answerByColumns, type Columns, columnValues, noColumns, type Question } from "./columns";

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
interface Known extends Columns {
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
    return { ...noColumns(row.last + 1), answers: new Map() };
  });
}

/** The values that subscribed contacts have in a field, and how many have each; null when they are too many. */
export async function valuesIn(
  septima: Septima,
  field: string,
): Promise<[value: unknown, count: number][] | null> {
  return columnValues(septima, await known(septima), field);
}

/** So many languages are told apart. */
const LANGUAGES = 200;

/** The languages that subscribed contacts have for their own, as they are stored. */
export async function languagesOf(septima: Septima): Promise<string[]> {
  const values = (await valuesIn(septima, "language")) ?? [];
  const languages = values.flatMap(([value]) => (typeof value === "string" && value !== "" ? [value] : []));
  return languages.sort().slice(0, LANGUAGES);
}

/** Called after contacts, lists, segments, fields or records have changed. */
export function audienceChanged(septima: Septima): void {
  for (const key of ["answers", "audience context", "record tables", "record facts"])
    septima.cache.delete(key);
}

/** Called after contacts did something, or were sent something: only what was asked of that is forgotten. */
export function behaviourChanged(septima: Septima): void {
  septima.cache.set("behaviour", {});
  const audience = septima.cache.get("answers") as Promise<Known> | undefined;
  if (!audience) return;
  const forget = ({ answers }: Known) => {
    for (const key of answers.keys()) if (key.includes(DID)) answers.delete(key);
  };
  audience.then(forget, () => undefined);
}

/** Stands for what contacts have done until now: another one once they did something. */
export const behaviourNow = (septima: Septima): unknown => septima.cache.get("behaviour");

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
  // What is relative to a day is another question on the next, and where days begin at another hour.
  const day = `${context.today} ${context.zone ?? "UTC"}`;
  const keyOf = (ask: Ask) => `${day} ${ask.kind} ${JSON.stringify(ask)}`;
  const wanted = new Map<string, Ask>();
  for (const ask of [...rules.flatMap((rule) => testsIn(rule, context)), ...asks])
    wanted.set(keyOf(ask), ask);
  const missing = [...wanted].filter(([key]) => !audience.answers.has(key));
  const found = new Map([...audience.answers].filter(([key]) => wanted.has(key)));
  const questions: Question[] = [];
  for (const [key, ask] of missing) {
    if (isMembership(ask)) continue;
    const yes = Bits.none(audience.size);
    found.set(key, yes);
    questions.push({ ...questionOf(ask, context), yes });
  }
  if (questions.length > 0 || audience.everyone === null) await answerByColumns(septima, audience, questions);
  const everyone = audience.everyone!;
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

/** What is asked of a field: by itself, or of the record it points to. */
function questionOf(ask: Exclude<Ask, Membership>, context: AudienceContext): Omit<Question, "yes"> {
  const asked = "field" in ask ? ask.field : "language";
  const fact = factIn(asked);
  const test = testOf(ask, context);
  const { records } = context;
  if (!fact || !records) return { field: fact?.field ?? asked, test };
  return {
    field: fact.field,
    test: (contact) => test({ ...contact, fields: withFacts(contact.fields, records) }),
  };
}

function testOf(ask: Exclude<Ask, Membership>, context: AudienceContext): (contact: Contact) => boolean {
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
