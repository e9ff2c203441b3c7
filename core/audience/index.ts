/**
 * Who the readers are and how they are told apart.
 *
 * `Contact` is one person with typed fields, `Rule` is the one syntax tree for show rules and segments,
 * `predicate` answers it for one contact and `toSql` for the whole table; both always agree. For many rules at once an
 * audience is asked each distinct test once (`testsIn`); its answers are `Bits`, which `whoMeets` puts together.
 */
export { Bits } from "./bits";
export type { Contact, FieldDef, FieldKind, FieldValue } from "./contact";
export {
  BASE_FIELDS,
  contactName,
  FieldDefSchema,
  fieldValue,
  isAddress,
  lacksField,
  parseAddresses,
} from "./contact";
export { csvRecord } from "./csv";
export { addDays, anniversaryDays } from "./dates";
export { describeRule, type Words } from "./describe";
export { type AudienceContext, predicate, RuleError } from "./predicate";
export { FIELD_OPS, type FieldOp, fieldRuleFor, OPS_BY_KIND, type Rule, RuleSchema } from "./rule";
export { type SqlCondition, toSql } from "./sql";
export { type AtomicRule, isAnswerable, testsIn, whoMeets } from "./tests";
export { type Given, givenValue, isDay } from "./values";
