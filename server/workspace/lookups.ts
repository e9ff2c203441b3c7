/** Named values that depend on rules, one for the whole workspace. */

import { namesGoneList } from "~/core/audience";
import { LOOKUP_PARTS, type Lookup, LookupSchema, readTyped, tagsIn } from "~/core/email";
import { audienceContext } from "../audience/groups";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";

type Row = Pick<Lookup, "key" | "name" | "kind"> & { cases: unknown; otherwise: unknown; revision: number };

/** A lookup as it is kept; `revision` grows with every change. */
export type KeptLookup = Lookup & { revision: number };

/** All lookups, by name. */
export function lookupsOf(septima: Septima): Promise<KeptLookup[]> {
  return cached(septima, "lookups", async () => {
    const rows = await septima.db.query<Row>(
      "select key, name, kind, cases, otherwise, revision from lookups order by lower(name), key",
    );
    return rows.map((row) => ({ ...LookupSchema.parse(row), revision: row.revision }));
  });
}

const LONGEST = 2000;

/** What is wrong with a value, as a sentence; null when nothing is. */
function wrongWith(lookup: Lookup): string | null {
  const values = [
    ...lookup.cases.map(({ name, value }, at) => ({ where: name || `Case ${at + 1}`, value })),
    { where: "Everybody else", value: lookup.otherwise },
  ];
  for (const { where, value } of values) {
    for (const part of LOOKUP_PARTS[lookup.kind]) {
      const text = value[part as keyof typeof value] ?? "";
      if (text.length > LONGEST) return `${where}: ${part} is longer than ${LONGEST} signs.`;
      const [mistake] = readTyped(text).mistakes;
      if (mistake) return `${where}, ${part}: ${mistake.text}`;
      if (tagsIn(text).some(({ field }) => field.startsWith("lookup.")))
        return `${where}, ${part}: a lookup cannot ask another lookup. Write the value, or a tag of the reader.`;
    }
  }
  return null;
}

/**
 * Keeps a lookup, new or changed.
 * @param known the revision that was changed; null for a new one
 * @throws Refusal when its key is taken, it was changed meanwhile, or a value cannot be read, naming the place
 */
export async function saveLookup(septima: Septima, given: Lookup, known: number | null): Promise<void> {
  const lookup = LookupSchema.parse(given);
  const wrong = wrongWith(lookup);
  if (wrong) throw new Refusal(wrong);
  const context = await audienceContext(septima);
  for (const [at, { name, when }] of lookup.cases.entries()) {
    if (namesGoneList(when, context))
      throw new Refusal(`${name || `Case ${at + 1}`} asks for a list that was deleted.`);
  }
  const values = [
    lookup.key,
    lookup.name,
    lookup.kind,
    JSON.stringify(lookup.cases),
    JSON.stringify(lookup.otherwise),
    new Date(septima.now()),
  ];
  const rows = await septima.db.transaction(async (tx) => {
    const kept =
      known === null
        ? await tx.query(
            `insert into lookups (key, name, kind, cases, otherwise, changed_at)
             values ($1, $2, $3, $4::jsonb, $5::jsonb, $6) on conflict (key) do nothing returning key`,
            values,
          )
        : await tx.query(
            `update lookups set name = $2, kind = $3, cases = $4::jsonb, otherwise = $5::jsonb, changed_at = $6,
               revision = revision + 1
             where key = $1 and revision = $7 returning key`,
            [...values, known],
          );
    if (kept.length > 0) await keepMentions(tx, "lookup", lookup.key, lookup);
    return kept;
  });
  septima.cache.delete("lookups");
  if (rows.length > 0) return;
  throw new Refusal(
    known === null
      ? `There is a lookup with the short name “${lookup.key}” already.`
      : `“${lookup.name}” was changed elsewhere meanwhile, or deleted. Open it again; what you wrote is still here.`,
    409,
  );
}

/**
 * Deletes a lookup. Tags that ask for it write their fallback, which is found before sending.
 * @returns it, to bring it back
 * @throws Refusal (404) when there is none
 */
export async function removeLookup(septima: Septima, key: string): Promise<Lookup> {
  const lookup = (await lookupsOf(septima)).find((one) => one.key === key);
  await septima.db.query("delete from lookups where key = $1", [key]);
  septima.cache.delete("lookups");
  if (!lookup) throw new Refusal("This lookup does not exist any more.", 404);
  const { revision: _, ...kept } = lookup;
  return kept;
}
