import { type AudienceContext, type Contact, predicateOrNobody, type Rule } from "../audience";
import { blocksOf, type Email } from "../email";

/** What stands around the content of an email, and says nothing by itself. */
const AROUND = new Set(["footer", "logo", "menu", "divider", "spacer", "social"]);

/** Whether a reader gets nothing of a design that has something to say but what stands around it. */
export function isBare(email: Email, reader: Contact, audience: AudienceContext): boolean {
  if (blocksOf(email).every(({ type }) => AROUND.has(type))) return false;
  const gets = ({ show }: { show?: Rule }) => !show || predicateOrNobody(show, audience)(reader);
  return !email.sections
    .filter(gets)
    .flatMap(({ rows }) => rows.filter(gets))
    .flatMap(({ columns }) => columns.flatMap(({ blocks }) => blocks))
    .some((block) => !AROUND.has(block.type) && gets(block));
}
