/**
 * Templates that come with the program: finished designs to start from, with words and pictures of the demo nursery.
 *
 * `TEMPLATES` names them all; `templateEmail` gives one as a design; `CLIPPINGS` are parts to put letters together from;
 * `kit` is the short notation that all are written in.
 */
import type { Email } from "../email";
import { ANSWER } from "./answer";
import { design } from "./build";
import { MEET } from "./meet";
import { SELL } from "./sell";
import { TELL } from "./tell";
import type { Template } from "./template";

export { design, kit, words } from "./build";
export { CLIPPINGS } from "./clippings";
export type { Template } from "./template";

export const TEMPLATES: readonly Template[] = [...TELL, ...SELL, ...MEET, ...ANSWER];

/**
 * A template as a design in its own theme. Its sender is empty.
 * @param feed the source its live blocks take from; empty when there is none
 */
export function templateEmail({ theme, subject, preheader, sections }: Template, feed: string): Email {
  return design(theme, subject, preheader, sections(feed));
}
