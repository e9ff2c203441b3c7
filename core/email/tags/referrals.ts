import { z } from "zod";

/** The field in which is counted how many friends a reader has brought. */
export const FRIENDS = "friends";
/** A reader's own link by which friends join. */
export const REFERRAL_LINK = "{$system.referral}";
/** The letter itself, as its reader sees it in a browser. */
export const LETTER_LINK = "{$system.letter}";
/** The page where a reader answers a survey of the letter. */
export const surveyLink = (block: string): string => `{$system.answer}/${block}`;

export const ReferralStepSchema = z.object({
  id: z.string().min(1).max(40),
  /** From so many friends on. */
  at: z.number().int().min(1).max(1000),
  /** What the reader gets, as words in the middle of a sentence. */
  reward: z.string().trim().min(1).max(200),
});
/** What readers earn by so many friends. */
export type ReferralStep = z.infer<typeof ReferralStepSchema>;
