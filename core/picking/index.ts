/**
 * Picking: which items of a source a reader gets in a list that no hand fills.
 *
 * A list asks (`ListAsk`): a source, a rule over items (`ItemRule`: their facts, also beside what the reader has), ways to
 * put them in order, one after the other until there are enough. `pickLists` answers all lists of an email for reader
 * after reader.
 */
export { daysOf, type ListAsk, ListAskSchema, looksAt, WAYS, type Way, type WayName, WaySchema } from "./ask";
export { itemKey, newOf, type Picked, type PickedList, pickLists, type Stock } from "./pick";
export {
  type Because,
  becauseWords,
  type ItemNews,
  type Market,
  NOTHING_DONE,
  type Past,
  SUPPORT,
} from "./recommended";
export {
  describeItemRule,
  type ItemRule,
  ItemRuleSchema,
  type ItemTest,
  itemFields,
  itemValue,
  LIKENESSES,
  type Likeness,
  type LikeRule,
  readerFields,
} from "./rule";
