/**
 * What contacts have in a field, as a column: two octets for each contact, the number of a value. What is asked about a
 * field is asked once of each value instead of each contact, and a second question about it needs no database.
 */
import { Bits, type Contact } from "~/core/audience";
import type { Septima } from "../septima";

/** A question about one field of contacts, and those who say yes. */
export interface Question {
  field: string;
  test: (contact: Contact) => boolean;
  yes: Bits;
}

/** What is known of the fields of an audience until it changes; contacts are meant by their numbers. */
export interface Columns {
  /** One more than the greatest number. */
  size: number;
  /** The subscribed ones; null until they were looked at. */
  everyone: Bits | null;
  columns: Map<string, Column>;
  /** Fields with so many different values that contacts are asked one by one. */
  wide: Set<string>;
  /** Ends when nobody reads fields any more: what one reads, the next need not. */
  reading: Promise<unknown>;
}

export const noColumns = (size: number): Columns => ({
  size,
  everyone: null,
  columns: new Map(),
  wide: new Set(["email"]),
  reading: Promise.resolve(),
});

/** So many columns are kept; of a million contacts each takes 2 MB. */
const KEPT = 24;
/** So many different values a column has at most. */
const MOST_VALUES = 50_000;

/** The first value stands for those who are not subscribed, or not there. */
const NOBODY = 0;

class Column {
  private readonly codes: Uint16Array;
  private readonly values: unknown[] = [null];
  private readonly codeOf = new Map<unknown, number>();

  constructor(
    private readonly field: string,
    size: number,
  ) {
    this.codes = new Uint16Array(size);
  }

  /** @returns false when there are too many different values */
  set(id: number, value: unknown): boolean {
    // No stored text has a NUL.
    const key = typeof value === "object" ? `\u0000${JSON.stringify(value)}` : value;
    let code = this.codeOf.get(key);
    if (code === undefined) {
      if (this.values.length > MOST_VALUES) return false;
      code = this.values.push(value) - 1;
      this.codeOf.set(key, code);
    }
    this.codes[id] = code;
    return true;
  }

  answer({ test, yes }: Question): void {
    const yeses = this.values.map((value, code) => code !== NOBODY && test(having(this.field, value)));
    const { codes } = this;
    for (let id = 0; id < codes.length; id++) if (yeses[codes[id]]) yes.add(id);
  }

  counts(): [value: unknown, count: number][] {
    const counts = new Uint32Array(this.values.length);
    for (const code of this.codes) counts[code] += 1;
    return this.values.map((value, code): [unknown, number] => [value, counts[code]]).slice(NOBODY + 1);
  }
}

const having = (field: string, value: unknown, email = "", id = 0): Contact => ({
  id,
  email,
  fields: { [field]: value },
  lists: [],
});

const breathe = () => new Promise<void>((resolve) => setImmediate(resolve));

/** Fills in who says yes to questions about fields, and who is subscribed. Others have their turn meanwhile. */
export async function answerByColumns(
  septima: Septima,
  audience: Columns,
  questions: readonly Question[],
): Promise<void> {
  const read = audience.reading.then(() => readMissing(septima, audience, questions));
  audience.reading = read.catch(() => undefined);
  await read;
  for (const question of questions) {
    const column = audience.columns.get(question.field);
    if (!column) continue;
    column.answer(question);
    await breathe();
  }
  for (const field of audience.columns.keys()) {
    if (audience.columns.size <= KEPT) break;
    audience.columns.delete(field);
  }
}

/**
 * The values that subscribed contacts have in a field, and how many have each.
 * @returns null when there are too many to be told apart
 */
export async function columnValues(
  septima: Septima,
  audience: Columns,
  field: string,
): Promise<[value: unknown, count: number][] | null> {
  if (audience.wide.has(field)) return null;
  await answerByColumns(septima, audience, [{ field, test: () => false, yes: Bits.none(0) }]);
  return audience.columns.get(field)?.counts() ?? null;
}

async function readMissing(
  septima: Septima,
  audience: Columns,
  questions: readonly Question[],
): Promise<void> {
  const missing = new Set(
    questions.map(({ field }) => field).filter((field) => !audience.columns.has(field)),
  );
  if (missing.size === 0 && audience.everyone !== null) return;
  const readers = [...missing].map(
    (field) =>
      new FieldReader(
        field,
        audience,
        questions.filter((question) => question.field === field),
      ),
  );
  await readFields(septima, audience, readers);
}

/** Reads a field of all contacts into a column or, when it has too many values, asks each of them at once. */
class FieldReader {
  private column: Column | null;

  constructor(
    readonly field: string,
    private readonly audience: Columns,
    private readonly questions: readonly Question[],
  ) {
    this.column = audience.wide.has(field) ? null : new Column(field, audience.size);
  }

  take(id: number, value: unknown): void {
    if (this.column?.set(id, value)) return;
    if (this.column) {
      for (const question of this.questions) this.column.answer(question);
      this.column = null;
      this.audience.wide.add(this.field);
    }
    const contact =
      this.field === "email" ? having("", null, String(value), id) : having(this.field, value, "", id);
    for (const { test, yes } of this.questions) if (test(contact)) yes.add(id);
  }

  end(): void {
    if (this.column) this.audience.columns.set(this.field, this.column);
  }
}

/** So many fields are asked for by name; of more, all come. */
const BY_NAME = 5;

/**
 * Lets all subscribed contacts pass by, in stretches. Each comes as texts of JSON, which is several times quicker than
 * rows.
 */
async function readFields(
  septima: Septima,
  audience: Columns,
  readers: readonly FieldReader[],
): Promise<void> {
  const { size } = audience;
  const everyone = Bits.none(size);
  const list = (value: string) => `string_agg(${value}, ',')`;
  const where = "from contacts c where c.id between $1::int and $2::int and c.status = 'subscribed'";
  const byName = readers.length <= BY_NAME;
  const named = readers.map(({ field }, at) =>
    field === "email"
      ? "to_json(c.email)::text"
      : `coalesce((c.fields -> ($3::text[])[${at + 1}])::text, 'null')`,
  );
  const email = readers.some(({ field }) => field === "email") ? list("to_json(c.email)::text") : "null";
  const sql = byName
    ? `select ${["c.id::text", ...named].map((value, at) => `${list(value)} as c${at}`).join(", ")} ${where}`
    : `select ${list("c.id::text")} as c0, ${list("c.fields::text")} as c1, ${email} as c2 ${where}`;
  // A statement has no parameter that it does not use.
  const params = named.some((value) => value.includes("$3")) ? [readers.map(({ field }) => field)] : [];
  await inStretches(size, async (from, to) => {
    const [row] = await septima.db.query<Record<string, string | null>>(sql, [
      from,
      to,
      ...(byName ? params : []),
    ]);
    const read = <T>(at: number) => JSON.parse(`[${row[`c${at}`] ?? ""}]`) as T[];
    const ids = read<number>(0);
    for (const id of ids) everyone.add(id);
    if (byName) {
      for (const [at, reader] of readers.entries()) {
        const values = read<unknown>(at + 1);
        for (let index = 0; index < ids.length; index++) reader.take(ids[index], values[index]);
      }
      return;
    }
    const all = read<Contact["fields"]>(1);
    const emails = read<string>(2);
    for (const reader of readers)
      for (let index = 0; index < ids.length; index++)
        reader.take(
          ids[index],
          reader.field === "email" ? emails[index] : (all[index][reader.field] ?? null),
        );
  });
  for (const reader of readers) reader.end();
  audience.everyone = everyone;
}

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
      await breathe();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
}
