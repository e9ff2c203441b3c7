/** A campaign as somebody looks it over: any edition, as any class of mail programs shows it, its blocks marked. */
import { blockTitle, blockType } from "~/core/blocks";
import { blocksOf } from "~/core/email";
import { asSeen, type InboxName } from "~/core/inboxes";
import { escapeHtml } from "~/core/program";
import { campaign } from "../campaigns/campaigns";
import { editionsFor } from "../campaigns/editions";
import type { Framed } from "../campaigns/frames";
import { editionsOrWhy, lookFor, NOBODY, orNone } from "../campaigns/rendering";
import type { Septima } from "../septima";

/** An edition to choose: its number, how many get it, and why, in a few words each. */
export interface EditionToSee {
  number: number;
  count: number;
  traits: string[];
  /** The reader as whom it is shown. */
  reader: number;
}

/** What is looked over: the parts that can be spoken of, and the editions. */
export async function toLookOver(septima: Septima, campaignId: string) {
  const { name, email, revision, readers } = await campaign(septima, campaignId);
  const { editions } = await editionsOrWhy(septima, email, readers, campaignId);
  const told = await orNone(
    editionsFor(
      septima,
      campaignId,
      editions.map(({ sample }) => sample.id),
    ),
  );
  return {
    name,
    revision,
    blocks: [...blocksOf(email)].map((block) => ({
      id: block.id,
      kind: blockType(block.type)?.label ?? "Block",
      title: blockTitle(block),
    })),
    editions: editions.map(
      ({ count, sample }, at): EditionToSee => ({
        number: at + 1,
        count,
        traits: told?.get(sample.id)?.traits ?? [],
        reader: sample.id,
      }),
    ),
  };
}

/** What an inbox shows of an edition before it is opened, and its text alone. */
export async function linesOf(septima: Septima, campaignId: string, edition: number) {
  const { message } = await seen(septima, campaignId, edition);
  const { senderName, subject, preheader, text } = message;
  return { senderName, subject, preheader, text };
}

/** The edition of a number as a frame shows it; the first where there is none of it. */
export async function lookOver(
  septima: Septima,
  campaignId: string,
  { edition, inbox }: { edition: number; inbox: InboxName | "text" | null },
): Promise<Framed> {
  const { message, look } = await seen(septima, campaignId, edition);
  if (inbox === "text")
    return {
      html: `<!doctype html><title>Text</title><pre style="white-space:pre-wrap;padding:16px">${escapeHtml(message.text)}</pre>`,
      policy: look.policy,
    };
  return inbox ? { ...look, html: asSeen(look.html, inbox) } : look;
}

async function seen(septima: Septima, campaignId: string, edition: number) {
  const { email, readers } = await campaign(septima, campaignId);
  const { editions } = await editionsOrWhy(septima, email, readers, campaignId);
  const { sample = NOBODY } = editions[edition - 1] ?? editions[0] ?? {};
  return lookFor(septima, email, sample, { campaign: campaignId, places: true });
}
