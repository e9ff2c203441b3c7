/** In which language a reader is spoken to. */
import { type Tongue, tongueOf } from "~/core/readers";
import type { Septima } from "../septima";

/** Who comes, as far as is known, and what their browser asks for. */
export interface Comer {
  contact?: number;
  campaign?: string;
  /** The most wanted first (BCP 47). */
  asked: readonly string[];
}

/**
 * The reader's own language; where they have none, what their browser asks for, and where that is nothing we speak, that of
 * the letter.
 */
export async function tongueFor(septima: Septima, { contact, campaign, asked }: Comer): Promise<Tongue> {
  const [row] =
    contact === undefined && campaign === undefined
      ? []
      : await septima.db.query<{ own: string | null; letter: string | null }>(
          `select (select fields ->> 'language' from contacts where id = $1) as own,
             (select email ->> 'language' from campaigns where id = $2) as letter`,
          [contact ?? null, campaign ?? null],
        );
  return tongueOf(row?.own, ...asked, row?.letter);
}
