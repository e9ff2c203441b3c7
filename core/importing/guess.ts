/** What the columns of a file may mean, by their names and by what stands in them. */
import { meantField } from "../apart";
import type { FieldDef } from "../audience";
import type { ColumnFacts, DateOrder } from "../tables";
import type { Target } from "./plan";
import { isTurned, readStatus } from "./status";

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
