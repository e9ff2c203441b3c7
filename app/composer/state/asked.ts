import type { Answer } from "~/core/assistant";

/** A question about this email, and what came of it. */
export interface Asked {
  id: string;
  question: string;
  /** When it was asked, in milliseconds since 1970. */
  at: number;
  /** Null while it is being answered. */
  answers: readonly (Answer & { id: string })[] | null;
  /** What of the answers could not be used. */
  dropped: readonly string[];
  problem: string | null;
}
