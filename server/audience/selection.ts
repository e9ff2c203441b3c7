import { z } from "zod";
import { type AudienceContext, type Bits, type Rule, toSql } from "~/core/audience";
import { broadly } from "../db/database";
import type { Septima } from "../septima";
import { type Answered, type Ask, askAudience } from "./answers";
import { audienceContext } from "./groups";

export const GroupSchema = z.object({
  kind: z.enum(["everyone", "list", "segment", "standing"]),
  id: z.string(),
});
/** Readers to take in, and readers to leave out. */
export const SelectionSchema = z.object({
  include: z.array(GroupSchema).max(50),
  exclude: z.array(GroupSchema).max(50),
});
export type Selection = z.infer<typeof SelectionSchema>;
export type Group = z.infer<typeof GroupSchema>;

/** Who is in and who is out, in the order they are subtracted. */
export interface SelectionCount {
  included: number;
  excluded: number;
  unsubscribed: number;
  bounced: number;
  complained: number;
  /** Have it already, from a sending that was cancelled on its way. */
  got: number;
  readers: number;
}

/** The rule that those in a group meet. */
export function ruleOfGroup({ kind, id }: Group): Rule {
  switch (kind) {
    case "everyone":
      return { kind: "all", of: [] };
    case "list":
      return { kind, list: id, in: true };
    case "segment":
      return { kind, segment: id, in: true };
    case "standing":
      return { kind, group: id, in: true };
  }
}

const ruleOf = (groups: readonly Group[]): Rule => ({ kind: "any", of: groups.map(ruleOfGroup) });

/** The condition on `contacts c` that somebody is in a group, whether they may be written to or not. @throws RuleError */
export function groupSql(group: Group, context: AudienceContext, taken: number) {
  return toSql(ruleOf([group]), context, taken);
}

/**
 * Counts a selection, each subtraction by itself. Addresses are unique in the audience, so nobody is counted twice.
 * @param campaignId whose earlier recipients are left out
 * @throws RuleError when a segment is gone
 */
export async function countSelection(
  septima: Septima,
  selection: Selection,
  campaignId: string | null = null,
): Promise<SelectionCount> {
  const context = await audienceContext(septima);
  const included = toSql(ruleOf(selection.include), context);
  const excluded = toSql(ruleOf(selection.exclude), context, included.params.length);
  const [row] = await broadly(septima.db, (tx) =>
    tx.query<SelectionCount>(
      `select count(*) as included,
       count(*) filter (where out) as excluded,
       count(*) filter (where not out and status = 'unsubscribed') as unsubscribed,
       count(*) filter (where not out and status = 'bounced') as bounced,
       count(*) filter (where not out and status = 'complained') as complained,
       count(*) filter (where not out and status = 'subscribed' and got) as got,
       count(*) filter (where not out and status = 'subscribed' and not got) as readers
     from (select c.status, ${excluded.sql} as out, ${gotSql(included.params.length + excluded.params.length + 1)} as got from contacts c where c.status <> 'removed' and ${included.sql}) it`,
      [...included.params, ...excluded.params, campaignId],
    ),
  );
  return row;
}

/** The condition on `contacts c` that somebody has a campaign already, or may have it; the parameter is its id. */
const gotSql = (parameter: number) =>
  `exists (select 1 from recipients r join dispatches d on d.id = r.dispatch_id
     where d.campaign_id = $${parameter}::text and r.contact_id = c.id and r.state in ('accepted', 'unconfirmed', 'handing'))`;

/** The condition on `contacts c` for the readers of a selection, suppressed ones left out. */
function selectionSql(
  selection: Selection,
  context: AudienceContext,
  taken: number,
): { sql: string; params: unknown[] } {
  const included = toSql(ruleOf(selection.include), context, taken);
  const excluded = toSql(ruleOf(selection.exclude), context, taken + included.params.length);
  return {
    sql: `(c.status = 'subscribed' and ${included.sql} and not ${excluded.sql})`,
    params: [...included.params, ...excluded.params],
  };
}

/** What decides a selection: everyone of an empty one, so that an email can be composed before they are chosen. */
export const rulesOf = ({ include, exclude }: Selection): [included: Rule, excluded: Rule] => [
  include.length === 0 ? { kind: "all", of: [] } : ruleOf(include),
  ruleOf(include.length === 0 ? [] : exclude),
];

/**
 * The readers of a selection, and what they answer besides.
 * @throws RuleError when a segment is missing or refers to itself
 */
export async function selectedReaders(
  septima: Septima,
  selection: Selection,
  rules: readonly Rule[] = [],
  asks: readonly Ask[] = [],
): Promise<Answered & { readers: Bits }> {
  const [included, excluded] = rulesOf(selection);
  const context = await audienceContext(septima);
  const answered = await askAudience(septima, context, [included, excluded, ...rules], asks);
  return { ...answered, readers: answered.meets(included).without(answered.meets(excluded)) };
}

/** The condition on `contacts c` that an import made them which has not come to its end: it may yet be taken back. */
const HALF_IN = `exists (select 1 from changes h join change_rows r on r.change_id = h.id
  where h.state in ('running', 'undoing', 'failed') and r.contact_id = c.id and r.before is null)`;

/** The condition on `contacts c` that somebody gets a campaign now: chosen, may be written to, and without it so far; where no campaign is named, nobody has it. */
export function recipientsSql(
  campaignId: string | null,
  selection: Selection,
  context: AudienceContext,
): { sql: string; params: unknown[] } {
  const chosen = selectionSql(selection, context, 1);
  return {
    sql: `${chosen.sql} and not ${gotSql(1)} and not ${HALF_IN}`,
    params: [campaignId, ...chosen.params],
  };
}
