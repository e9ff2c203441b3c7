/** Pictures of what was found, and of editions as classes of mail programs show them. */
import type { Email } from "~/core/email";
import { asSeen, type InboxName } from "~/core/inboxes";
import { contactById } from "../audience/contacts";
import { campaign } from "../campaigns/campaigns";
import type { Framed } from "../campaigns/frames";
import { lookFor, someReader } from "../campaigns/rendering";
import type { Septima } from "../septima";

/** An email with one of its blocks and what that stands in, and nothing else. */
function alone(email: Email, block: string): Email {
  const sections = email.sections.flatMap((section) => {
    const rows = section.rows.flatMap((row) => {
      const columns = row.columns.flatMap((column) => {
        const blocks = column.blocks.filter(({ id }) => id === block);
        return blocks.length > 0 ? [{ ...column, blocks, width: 100 }] : [];
      });
      return columns.length > 0 ? [{ ...row, columns }] : [];
    });
    return rows.length > 0 ? [{ ...section, rows }] : [];
  });
  return { ...email, envelope: { ...email.envelope, preheader: [] }, sections };
}

/**
 * A campaign's email as a reader gets it and a class of mail programs shows it; or one of its blocks.
 * @throws Refusal when the campaign or the reader is gone
 */
export async function lookAt(
  septima: Septima,
  campaignId: string,
  asked: { reader?: number; block?: string; inbox?: InboxName },
): Promise<Framed> {
  const { email } = await campaign(septima, campaignId);
  const contact =
    asked.reader === undefined ? await someReader(septima) : await contactById(septima, asked.reader);
  const shown = asked.block === undefined ? email : alone(email, asked.block);
  const { look } = await lookFor(septima, shown, contact, { campaign: campaignId });
  return asked.inbox ? { ...look, html: asSeen(look.html, asked.inbox) } : look;
}
