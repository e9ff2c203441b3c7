/**
 * Tags: placeholders for what differs from reader to reader, and for what is the same for all but said elsewhere.
 *
 * `MergeTag` is one, `readTyped` reads those that are typed into plain words, `Known` is what they may ask besides the
 * reader, and `writeTag`, `typedString` and `whenAddress` write them into a program.
 */
export { asksReader, type CodeFacts, constantOf, type Known, type TagFacts } from "./known";
export {
  LOOKUP_PARTS,
  type Lookup,
  type LookupKind,
  LookupSchema,
  type LookupValue,
  lookupNamed,
  lookupTags,
} from "./lookup";
export { FRIENDS, LETTER_LINK, REFERRAL_LINK, ReferralStepSchema, surveyLink } from "./referrals";
export { type MergeTag, MergeTagSchema, TAG_FORMATS, type TagFormat } from "./tag";
export {
  addressOf,
  type ItemTarget,
  itemsNamed,
  itemTag,
  itemTagOf,
  type NamedItem,
  targetAddress,
  targetOfTag,
  targetsOf,
  targetWords,
} from "./targets";
export {
  asRead,
  hasTyped,
  readTyped,
  tagsIn,
  tagWords,
  typedTag,
  typedWords,
} from "./typed";
export { type Landing, typedString, whenAddress, writeTag } from "./write";
