/** The recipients of a dispatch, one by one and in figures: who waits and why, who was refused, what was tried with whom. */
import { z } from "zod";
import { soughtSql } from "../audience/contacts";
import type { Septima } from "../septima";
import { RECIPIENT_STATES, type RecipientState } from "./recipient";

export const RecipientQuerySchema = z.object({
  state: z.enum([...RECIPIENT_STATES, "again"]).optional(),
  /** Words that the address or the name holds. */
  text: z.string().max(200).default(""),
  offset: z.coerce.number().int().min(0).default(0),
});
export type RecipientQuery = z.input<typeof RecipientQuerySchema>;

/** One recipient with all that was tried. */
export interface RecipientLine {
  contact: number;
  name: string | null;
  address: string;
  state: RecipientState;
  /** When it came to this state. */
  at: string;
  /** When it is tried again, where it waits for that. */
  nextTry: string | null;
  /** Each trouble there was, the first of them first. */
  troubles: { at: string; words: string }[];
  /** Why it is not sent, where nothing was tried. */
  why: string | null;
  /** Whether the message as it was sent can be looked at. */
  made: boolean;
}

/** So many are listed at once. */
const AT_ONCE = 50;

/** Recipients of a dispatch, those with whom something happened last first, at most so many at once. `again` are those who wait for another try. */
export async function recipientsOf(
  septima: Septima,
  dispatchId: string,
  query: RecipientQuery,
): Promise<{ total: number; most: number; lines: RecipientLine[] }> {
  const { state, text, offset } = RecipientQuerySchema.parse(query);
  const params: unknown[] = [dispatchId];
  const conditions = ["r.dispatch_id = $1"];
  if (state === "again") conditions.push("r.state = 'pending'", "r.next_try is not null");
  else if (state) conditions.push(`r.state = $${params.push(state)}`);
  conditions.push(...soughtSql(text, (word) => `$${params.push(word)}`));
  const those = `from recipients r join contacts c on c.id = r.contact_id where ${conditions.join(" and ")}`;
  const rows = await septima.db.query<{
    contact: number;
    name: string | null;
    address: string;
    state: RecipientState;
    at: Date;
    next_try: Date | null;
    troubles: RecipientLine["troubles"] | null;
    trouble: string | null;
    made: boolean;
  }>(
    `select r.contact_id as contact, r.name, coalesce(r.address, c.email) as address, r.state, r.changed_at as at,
       r.next_try, r.troubles, r.trouble, r.edition is not null and r.handed_at is not null as made
     ${those} order by r.changed_at desc, r.contact_id limit ${AT_ONCE} offset $${params.push(offset)}`,
    params,
  );
  const [{ total }] = await septima.db.query<{ total: number }>(
    `select count(*)::int as total ${those}`,
    params.slice(0, -1),
  );
  return {
    total,
    most: AT_ONCE,
    lines: rows.map(({ at, next_try, troubles, trouble, ...row }) => ({
      ...row,
      at: at.toISOString(),
      nextTry: row.state === "pending" ? (next_try?.toISOString() ?? null) : null,
      troubles: troubles ?? [],
      why: troubles === null ? trouble : null,
    })),
  };
}
