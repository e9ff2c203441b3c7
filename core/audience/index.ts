/**
 * Who the readers are and how they are told apart.
 *
 * `Contact` is one person with typed fields, `Rule` is the one syntax tree for show rules and segments,
 * `predicate` answers it for one contact and `toSql` for the whole table; both always agree. For many rules at once an
 * audience is asked each distinct test once (`testsIn`); its answers are `Bits`, which `whoMeets` puts together.
 */
export { didSetSql } from "./behaviour";
export { Bits } from "./bits";
export { type ContactState, change, type Done, together, undone, type Wanted } from "./changes";
export type { Contact, ContactStatus, FieldDef, FieldKind, FieldValue } from "./contact";
export {
  BASE_FIELDS,
  contactName,
  FieldDefSchema,
  FieldKeySchema,
  fieldValue,
  isAddress,
  lacksField,
  parseAddresses,
} from "./contact";
export type { AudienceContext } from "./context";
export { csvRecord } from "./csv";
export { addDays, addSpan, anniversaryDays, dayIn, dayStart, type Span } from "./dates";
export { describeRule, type RuleNames, ruleNames, type Words } from "./describe";
export type { DidRule } from "./did-rule";
export { explainRule, factsInWords, type Reason } from "./explain";
export { fold } from "./fold";
export { EVENT_KINDS, type EventKind, type History } from "./history";
export { FIELD_OPS, fieldRuleFor, OPS_BY_KIND } from "./operators";
export { predicate, predicateOrNobody, RuleError } from "./predicate";
export {
  FACT_KINDS,
  type FactDef,
  factFields,
  factIn,
  factsBehind,
  type RecordFacts,
  type RecordTable,
  RecordTableSchema,
  type TableRecord,
  withFacts,
} from "./records";
export { type FieldRule, type Rule, RuleSchema, visitRule } from "./rule";
export { toSql } from "./sql";
export { groupKey, STANDING_GROUPS } from "./standing";
export { type AtomicRule, asksHistory, isAnswerable, namesGoneList, testsIn, whoMeets } from "./tests";
export { givenValue, isDay } from "./values";
