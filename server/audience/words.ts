import type { FieldDef, Rule } from "~/core/audience";
import type { Septima } from "../septima";
import { readerFields } from "./fields";
import { audienceContext, lists, segments } from "./groups";
import { type BehaviourNames, behaviourNames } from "./history";

/** All that a rule may speak of, and what it is called. */
export interface RuleWords {
  fields: FieldDef[];
  lists: { id: string; name: string }[];
  segments: { id: string; name: string; rule: Rule }[];
  behaviour: BehaviourNames;
  /** The day rules are counted from, and the zone it is that day in. */
  today: string;
  zone: string;
}

export async function ruleWords(septima: Septima): Promise<RuleWords> {
  const [fields, allLists, allSegments, behaviour, { today, zone = "UTC" }] = await Promise.all([
    readerFields(septima),
    lists(septima),
    segments(septima),
    behaviourNames(septima),
    audienceContext(septima),
  ]);
  return {
    fields,
    lists: allLists.map(({ id, name }) => ({ id, name })),
    segments: allSegments,
    behaviour,
    today,
    zone,
  };
}
