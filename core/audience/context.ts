import type { RecordFacts } from "./records";
import type { Rule } from "./rule";

/** What a rule needs to know besides the contact. */
export interface AudienceContext {
  /** The day relative dates are counted from, `YYYY-MM-DD`. */
  today: string;
  /** The time zone in which a day begins for behaviour (IANA); UTC when missing. */
  zone?: string;
  /** The rules of all segments by id. */
  segments: ReadonlyMap<string, Rule>;
  /** What segments are called, also those that were deleted; by their ids where it is not known. */
  names?: ReadonlyMap<string, string>;
  /** The ids of all lists; needed only to say which are gone. */
  lists?: ReadonlySet<string>;
  /** What stands behind fields that point to records; not needed for a contact whose fields have it. */
  records?: RecordFacts;
}
