/** What the columns of a file may mean, by their names and by what stands in them. */
import { meantField } from "../apart";
import { type FieldDef, type FieldKind, isAddress } from "../audience";
import type { Target } from "./plan";
import { type DateOrder, readBoolean, readDate, readNumber } from "./read-value";
import { isTurned, readStatus } from "./status";

export interface ColumnFacts {
  name: string;
  /** In how many lines it has something. */
  filled: number;
  /** Some of what it has. */
  samples: string[];
  /** How many different values it has, as far as they were counted. */
  different: number;
  kind: FieldKind | "address";
  /** Whether an address stands in it, somewhere. */
  addresses: boolean;
  /** How its days are written. */
  dates: DateOrder;
  /** What parts whole numbers from what is after them. */
  decimal: "." | ",";
}

/** So many different values are remembered of a column. */
const REMEMBERED = 40;
const SAMPLES = 4;
/** A share of values that must fit for a column to be of a kind. */
const FITTING = 0.9;

/** Watches the cells of one column pass. */
export class ColumnWatch {
  private filled = 0;
  private readonly values = new Map<string, number>();
  private addresses = 0;
  private booleans = 0;
  private days = { dmy: 0, mdy: 0 };
  private numbers = { ".": 0, ",": 0 };
  private parted = 0;
  private readonly samples: string[] = [];

  constructor(
    private readonly name: string,
    private readonly thisYear: number,
  ) {}

  take(cell: string): void {
    const text = cell.trim();
    if (text === "") return;
    this.filled += 1;
    const short = text.length > 200 ? `${text.slice(0, 200)}…` : text;
    if (this.samples.length < SAMPLES && !this.samples.includes(short)) this.samples.push(short);
    if (this.values.size <= REMEMBERED) this.values.set(short, (this.values.get(short) ?? 0) + 1);
    // What kind it is, the first thousands tell.
    if (this.filled > 5000) return;
    if (isAddress(text)) this.addresses += 1;
    if (readBoolean(text) !== null) this.booleans += 1;
    if (/\d/.test(text) && text.length < 40) {
      if (readDate(text, "dmy", this.thisYear)) this.days.dmy += 1;
      if (readDate(text, "mdy", this.thisYear)) this.days.mdy += 1;
      if (readNumber(text, ".") !== null) this.numbers["."] += 1;
      if (readNumber(text, ",") !== null) this.numbers[","] += 1;
    }
    if (/[;|]/.test(text)) this.parted += 1;
  }

  facts(): ColumnFacts {
    const seen = Math.min(this.filled, 5000);
    const most = (number: number) => seen > 0 && number >= seen * FITTING;
    const dates: DateOrder = this.days.mdy > this.days.dmy ? "mdy" : "dmy";
    const decimal = this.numbers[","] > this.numbers["."] ? "," : ".";
    const few = this.values.size <= seen / 3 && this.samples.every((sample) => sample.length <= 60);
    // A long row of digits, or one that begins with a zero, is a number of something and not a quantity.
    const codes = this.samples.some((sample) => /^0\d|^\+|^\d{9,}$/.test(sample));
    const kind: ColumnFacts["kind"] = most(this.addresses)
      ? "address"
      : most(Math.max(this.days.dmy, this.days.mdy))
        ? "date"
        : most(this.booleans) && this.values.size <= 3
          ? "boolean"
          : most(this.numbers[decimal]) && !codes
            ? "number"
            : this.parted > seen / 4
              ? "set"
              : few && this.values.size > 1 && this.values.size <= 12
                ? "choice"
                : "text";
    return {
      name: this.name,
      filled: this.filled,
      samples: this.samples,
      different: this.values.size,
      kind,
      addresses: this.addresses > 0,
      dates,
      decimal,
    };
  }
}

export interface Guess {
  target: Target;
  dates: DateOrder;
  decimal: "." | ",";
}

const LISTS = /^(lists?|listen?|groups?|gruppen?|tags?|segments?)$/i;
const STATUS =
  /^((e.?mail|newsletter|marketing|subscription|contact|mailing)?[ _-]*(status|state|permission)|(newsletter|marketing|e.?mail)?[ _-]*(un)?subscri(bed?|ber|ption)|newsletter|abonniert|angemeldet|abgemeldet|gesperrt|abonn[ée]e?|inscrite?|suscrit[oa]|iscritt[oa]|ingeschreven|uitgeschreven|subscrit[oa]|zapisan[ya]|wypisan[ya]|(accepts|allows?)[ _-]*(e.?mail|marketing|newsletter).*|do[ _-]*not[ _-]*(e.?mail|mail|contact)|suppressed|bounced)$/i;
/** Columns about agreeing: with yes and no in them they say whether, else how. */
const AGREED =
  /(opt.?(in|out)|consent|einwilligung|zustimmung|consentement|consenso|toestemming|zgoda|permission)/i;

/** Names that columns have for fields which every workspace has. */
const MEANS: readonly [RegExp, string][] = [
  [/(seit|since|depuis|joined|join.?date|sign.?up|registered|created|beigetreten|eintritt)/i, "joined"],
  [/(birth|geburt|naissance|^dob$|^bday$)/i, "birthday"],
  [/^(language|sprache|langue|lang|locale)$/i, "language"],
  [/(time.?zone|zeitzone|fuseau|^tz$)/i, "time_zone"],
  [/(consent|opt.?in|einwilligung).*(date|time|at|on|datum|am)$/i, "consent_date"],
  [/(consent|opt.?in|einwilligung)/i, "consent_source"],
];

/** The field a column may be by its name, or by holding only what the field can hold. */
function meantBy(column: ColumnFacts, fields: readonly FieldDef[]): string | null {
  const named = meantField(column.name, fields);
  if (named !== null) return named;
  const means = MEANS.find(([pattern]) => pattern.test(column.name))?.[1];
  const known = fields.find(({ key }) => key === means);
  if (known && (known.kind !== "date" || column.kind === "date")) return known.key;
  const words = column.samples.map((sample) => sample.toLowerCase());
  const offers = ({ options = [] }: FieldDef, word: string) =>
    options.some(({ value, label }) => value.toLowerCase() === word || label.toLowerCase() === word);
  return words.length > 0
    ? (fields.find((field) => words.every((word) => offers(field, word)))?.key ?? null)
    : null;
}

/** Whether all that was seen of a column says whether somebody may be written to. */
const saysWhether = ({ samples }: ColumnFacts) =>
  samples.length > 0 && samples.every((sample) => readStatus(sample, false, {}) !== null);

/** A column of such a name as one that says whether somebody may be written to. */
export const statusTarget = (name: string): Target => ({ to: "status", turned: isTurned(name), means: {} });

/** What each column may become. No field is given twice; what means nothing known is left out. */
export function guessColumns(columns: readonly ColumnFacts[], fields: readonly FieldDef[]): Guess[] {
  const taken = new Set<string>();
  const byName = columns.map((column): Target => {
    const agreed = AGREED.test(column.name) && (column.kind === "boolean" || saysWhether(column));
    if ((STATUS.test(column.name.trim()) || agreed) && !taken.has(" status")) {
      taken.add(" status");
      return statusTarget(column.name);
    }
    const field = meantBy(column, fields);
    if (
      field !== null &&
      !taken.has(field) &&
      (field !== "email" || column.addresses || column.filled === 0)
    ) {
      taken.add(field);
      return { to: "field", field };
    }
    if (LISTS.test(column.name.trim()) && !taken.has(" lists")) {
      taken.add(" lists");
      return { to: "lists" };
    }
    return { to: "nothing" };
  });
  // Without a column that is called so, the first that holds addresses is it.
  if (!taken.has("email")) {
    const at = columns.findIndex(
      (column, index) => column.kind === "address" && byName[index].to === "nothing",
    );
    if (at >= 0) byName[at] = { to: "field", field: "email" };
  }
  return columns.map(({ dates, decimal }, at) => ({ target: byName[at], dates, decimal }));
}
