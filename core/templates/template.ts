import type { Email, Purpose, Season } from "../email";

/** A finished design that comes with the program. */
export interface Template {
  id: string;
  name: string;
  about: string;
  purpose: Purpose;
  season?: Season;
  /** Its own theme. */
  theme: string;
  /** @param feed the source its live blocks take from */
  sections(feed: string): Email["sections"];
  subject: string;
  preheader: string;
}
