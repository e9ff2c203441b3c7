/**
 * Contacts as people have them: files of comma-separated values and vCards, whatever program wrote them.
 *
 * `guessColumns` says what the columns of a table may mean, and `lineReader` makes of each line what a contact is given,
 * or says why not.
 */
export { guessColumns, statusTarget } from "./guess";
export { type ImportCounts, Tally, wantedFrom } from "./merge";
export {
  type Given,
  type LineRead,
  lineReader,
  newFieldsOf,
  type Plan,
  PlanSchema,
  type StatusWord,
  type Target,
} from "./plan";
export { isTurned, type Meaning, MOST_WORDS, readStatus } from "./status";
export { CARD_COLUMNS, cardsAsRecords, isCards } from "./vcard";
