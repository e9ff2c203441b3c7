/** What the sheet says before a campaign goes out: whom it goes to, what they see of it, and what stands in the way. */
import type { Contact } from "~/core/audience";
import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { campaignAs, editionsOf, orNone } from "../campaigns/rendering";
import { preflight, SHORTLY, type ShownFinding } from "../preflight/preflight";
import type { Septima } from "../septima";
import { gotCounts } from "./repeating";

/** What takes a while to work out for a large audience. */
export interface SheetNumbers {
  readers: number;
  editions: number;
  /** How many have it already. */
  got: number;
  /** What stops it or is worth a look, and was not set aside. */
  findings: ShownFinding[];
  /** How much could be better besides. */
  could: number;
  /** As the reader shown gets it. */
  from: string;
  subject: string;
  preheader: string;
  reader: Contact | null;
}

const knownKey = (campaignId: string) => `sheet ${campaignId}`;

/** What the sheet of a campaign said last, however long ago that was; null when it was not asked yet. */
export function knownNumbers({ cache }: Septima, campaignId: string): SheetNumbers | null {
  return (cache.get(knownKey(campaignId)) as SheetNumbers | undefined) ?? null;
}

/**
 * Works out what the sheet says as things are now.
 * @param reader who is to be shown; without, one who gets the largest edition
 * @throws Refusal when the campaign or the reader is gone
 */
export async function sheetNumbers(
  septima: Septima,
  campaignId: string,
  reader?: number,
): Promise<SheetNumbers> {
  const { email, readers: selection } = await campaign(septima, campaignId);
  const { findings } = await preflight(septima, campaignId, SHORTLY);
  const open = findings.filter(({ aside }) => aside === null);
  const count = await orNone(countSelection(septima, selection, await gotCounts(septima, campaignId)));
  const found =
    count && selection.include.length > 0
      ? await orNone(editionsOf(septima, email, selection, campaignId))
      : null;
  const shown = reader ?? found?.editions[0]?.sample.id;
  const { message, contact } = await campaignAs(septima, campaignId, shown);
  const numbers: SheetNumbers = {
    readers: count?.readers ?? 0,
    editions: found?.editions.length ?? 0,
    got: count?.got ?? 0,
    findings: open.filter(({ weight }) => weight !== "could"),
    could: open.filter(({ weight }) => weight === "could").length,
    from: `${message.senderName} <${message.senderAddress}>`,
    subject: message.subject,
    preheader: message.preheader,
    reader: contact,
  };
  septima.cache.set(knownKey(campaignId), numbers);
  return numbers;
}
