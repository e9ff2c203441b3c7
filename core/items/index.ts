/**
 * Items: what sources hold. An article, a product, an appointment and a record of any shape are one thing with different
 * facts.
 *
 * `Item` is that thing, `costs`, `saving` and `isSoldOut` say what follows from
 * its facts, `foundBy` by which words it is found, and
 * `changedSince` what has changed of it since it was placed.
 */
export {
  costs,
  FACT_KINDS,
  type FactKind,
  type FactValue,
  type Item,
  type ItemFact,
  ItemFactSchema,
  ItemSchema,
  isSoldOut,
  itemOf,
  SOURCE_KINDS,
  type SourceKind,
  saving,
  savingPercent,
} from "./item";
export { foundBy, searchWords } from "./search";
export { changedSince, type Since } from "./since";
