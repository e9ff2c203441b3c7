/** The lines of a file of contacts, read by a plan: what seeing beforehand and bringing in have in common. */
import type { FieldDef } from "~/core/audience";
import { type Given, type LineRead, lineReader, newFieldsOf, type Plan } from "~/core/importing";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { type Changeable, changeable } from "./changing";
import { fieldsOf } from "./fields";
import { refuseSameName } from "./groups";
import { type FileFacts, recordsOf } from "./import-file";

export interface Rejected {
  line: number;
  reason: string;
  cells: string[];
}

/** So many lines are handled in one transaction: others wait so long at most. */
const STRETCH = 800;
/** So many are kept for the file of them, and so many letters of each cell. */
export const MOST_REJECTED = 100_000;
const LONGEST_CELL = 1000;

export interface Line {
  line: number;
  cells: string[];
  read: LineRead;
}

/** The lines of a file, read by a plan, in stretches. */
export async function* linesOf(
  septima: Septima,
  file: FileFacts,
  read: (cells: readonly string[]) => LineRead,
): AsyncGenerator<Line[]> {
  let first = file.reading.header;
  let stretch: Line[] = [];
  for await (const { records } of recordsOf(septima, file)) {
    for (const { line, cells } of records) {
      if (first) {
        first = false;
        continue;
      }
      stretch.push({ line, cells, read: read(cells) });
      if (stretch.length < STRETCH) continue;
      yield stretch;
      stretch = [];
    }
  }
  if (stretch.length > 0) yield stretch;
}

/** Checks a plan against what there is. @throws Refusal that says what it lacks */
export async function prepared(septima: Septima, file: FileFacts, plan: Plan): Promise<FieldDef[]> {
  if (plan.columns.length !== file.columns.length)
    throw new Refusal("The file was read differently meanwhile. Look at its columns again.", 409);
  const known = await fieldsOf(septima);
  const keys = new Set(known.map(({ key }) => key));
  const labels = new Set(known.map(({ label }) => label.toLowerCase()));
  const targets = plan.columns.flatMap(({ target }) => (target.to === "field" ? [target.field] : []));
  if (!targets.includes("email"))
    throw new Refusal("Say which column holds the addresses: nobody can be written to without one.");
  const twice = targets.find((key, at) => targets.indexOf(key) !== at);
  if (twice !== undefined)
    throw new Refusal(
      `“${known.find(({ key }) => key === twice)?.label ?? twice}” is filled from two columns.`,
    );
  const made = newFieldsOf(plan);
  for (const { key, label } of made)
    if (keys.has(key) || labels.has(label.toLowerCase()))
      throw new Refusal(
        `There is a field “${label}” already. Choose it, or name the new one differently.`,
        409,
      );
  if (plan.newList.trim() !== "") await refuseSameName(septima.db, "", plan.newList.trim());
  return [...known, ...made];
}

export function readerFor(septima: Septima, file: FileFacts, plan: Plan, fields: readonly FieldDef[]) {
  const thisYear = new Date(septima.now()).getUTCFullYear();
  return lineReader(
    plan,
    file.columns.map(({ name }) => name),
    fields,
    thisYear,
  );
}

/** Cells as they are kept of a line that is not taken. */
export const shortly = (cells: readonly string[]) =>
  cells.map((cell) => (cell.length > LONGEST_CELL ? `${cell.slice(0, LONGEST_CELL).toWellFormed()}…` : cell));

/** Contacts of the addresses that lines give, by address in small letters. Somebody removed is there, too. */
export async function knownContacts(
  db: Queries,
  given: readonly Given[],
  held = true,
): Promise<Map<string, Changeable & { email: string }>> {
  if (given.length === 0) return new Map();
  const addresses = given.map(({ email }) => email.toLowerCase());
  const rows = await changeable(db, "lower(c.email) = any ($1::text[])", [addresses], held);
  return new Map(rows.map((contact) => [contact.email.toLowerCase(), contact]));
}
