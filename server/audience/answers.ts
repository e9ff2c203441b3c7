/**
 * What a whole audience answers: each distinct test once, in SQL, as a set with one bit for each contact. Rules, counts
 * and editions are put together from them; nobody is in memory but by their bit.
 */
import { type Ask, type AudienceContext, askSql, Bits, type Rule, testsIn, whoMeets } from "~/core/audience";
import { cached, type Septima } from "../septima";

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

/** Called after contacts or who is on a list have changed. */
export function answersChanged(septima: Septima): void {
  septima.cache.delete("answers");
  septima.cache.delete("languages");
}

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
  const keyOf = (ask: Ask) => `${context.today} ${JSON.stringify(ask)}`;
  const wanted = new Map<string, Ask>();
  for (const ask of [...rules.flatMap((rule) => testsIn(rule, context)), ...asks])
    wanted.set(keyOf(ask), ask);
  const missing = [...wanted].filter(([key]) => !audience.answers.has(key));
  const found = new Map<string, Bits>();
  for (const key of wanted.keys()) {
    const answer = audience.answers.get(key);
    if (answer) found.set(key, answer);
  }
  if (missing.length > 0 || audience.everyone === null) {
    const [everyone, ...answers] = await scan(
      septima,
      audience.size,
      missing.map(
        ([, ask]) =>
          (taken) =>
            askSql(ask, context, taken),
      ),
    );
    audience.everyone = everyone;
    for (const [index, [key]] of missing.entries()) {
      found.set(key, answers[index]);
      audience.answers.set(key, answers[index]);
    }
    for (const key of audience.answers.keys()) {
      if (audience.answers.size <= KEPT) break;
      audience.answers.delete(key);
    }
  }
  const { everyone } = audience;
  const yes = (ask: Ask) => {
    const answer = found.get(keyOf(ask));
    if (!answer) throw new Error(`not asked: ${JSON.stringify(ask)}`);
    return answer;
  };
  return { everyone, yes, meets: (rule) => whoMeets(rule, context, everyone, yes) };
}

/** How long one statement may take, in milliseconds: the embedded database has the process to itself meanwhile. */
const STRETCH = 40;
/** So many numbers are asked for at first, and at most. */
const NUMBERS = { first: 2000, most: 50_000 };
/** So many answers are one letter of what comes back. */
const IN_LETTER = 5;

/**
 * Goes through all subscribed contacts once, in stretches of numbers, and asks them everything; five answers come back as
 * one letter, from `@` for five times no.
 * @returns who is subscribed, then who says yes to each
 */
async function scan(
  septima: Septima,
  size: number,
  asks: readonly ((taken: number) => { sql: string; params: unknown[] })[],
): Promise<Bits[]> {
  const params: unknown[] = [];
  const conditions = [
    "true",
    ...asks.map((ask) => {
      const condition = ask(2 + params.length);
      params.push(...condition.params);
      return condition.sql;
    }),
  ];
  const letters: string[] = [];
  for (let from = 0; from < conditions.length; from += IN_LETTER) {
    const parts = conditions.slice(from, from + IN_LETTER).map((sql, at) => `(${sql})::int * ${1 << at}`);
    letters.push(`chr(64 + ${parts.join(" + ")})`);
  }
  const columns = letters.map((letter, at) => `${letter} as l${at}`).join(", ");
  const joined = letters
    .map((_, at) => `string_agg(coalesce(it.l${at}, '@'), '' order by n) as l${at}`)
    .join(", ");
  const sql = `select ${joined} from generate_series($1::int, $2::int) n left join (
      select c.id, ${columns} from contacts c where c.id between $1::int and $2::int and c.status = 'subscribed'
    ) it on it.id = n`;
  const found = conditions.map(() => Bits.none(size));
  let count = NUMBERS.first;
  for (let from = 0; from < size; ) {
    const to = Math.min(size, from + count) - 1;
    const begun = performance.now();
    const [row] = await septima.db.query<Record<string, string>>(sql, [from, to, ...params]);
    const took = performance.now() - begun;
    for (const [at] of letters.entries()) {
      const said = row[`l${at}`];
      const sets = found.slice(at * IN_LETTER, (at + 1) * IN_LETTER);
      for (let index = 0; index < said.length; index++) {
        const yes = said.charCodeAt(index) - 64;
        if (yes === 0) continue;
        for (let bit = 0; bit < sets.length; bit++) if (yes & (1 << bit)) sets[bit].add(from + index);
      }
    }
    from = to + 1;
    count = Math.min(
      NUMBERS.most,
      Math.max(500, Math.round(count * Math.min(4, STRETCH / Math.max(1, took)))),
    );
    // Others have their turn.
    await new Promise((resolve) => setImmediate(resolve));
  }
  return found;
}
