/** What a dispatch froze when its readers were gathered, and the messages that are made of it: the same at any time. */
import { signingDomain } from "~/core/mime";
import { personalise } from "~/core/personal";
import type { Queries } from "../db/database";
import { signingOf } from "../mail/leaving";
import { signersOf } from "../mail/signing-keys";
import { Refusal } from "../refusal";
import { envelopesOf } from "../returned/return-path";
import type { Septima } from "../septima";
import { codesOf } from "../sources/codes";
import { secretOf } from "../workspace/settings";
import { type Addressed, type Codes, type Frozen, makingOf } from "./making";

/** A reader of a dispatch, with how their message is signed. */
export interface Delivered extends Addressed {
  /** As of which turn of the keys it is signed; null for what is from before there were any. */
  turn: number | null;
}

/** What is read of `recipients r` to make a message. */
export const DELIVERED = `r.contact_id as id, r.edition, r.facts::json as facts, r.address, r.name, r.message_id as "messageId", r.handed_at as at, r.turn`;

/** Keeps what a dispatch is made of; once. */
export async function keepFrozen(tx: Queries, dispatchId: string, frozen: Frozen): Promise<void> {
  await tx.query("update dispatches set frozen = $2::jsonb where id = $1", [
    dispatchId,
    JSON.stringify(frozen),
  ]);
}

/** What a dispatch is made of; null before its readers are gathered, and for one from before there was a ledger. */
export async function frozenOf(septima: Septima, dispatchId: string): Promise<Frozen | null> {
  const [row] = await septima.db.query<{ frozen: Frozen | null }>(
    "select frozen from dispatches where id = $1",
    [dispatchId],
  );
  return row?.frozen ?? null;
}

/** The batches of which some readers have a code. */
export const batchesOf = ({ program }: Frozen): string[] => [
  ...new Set(program.editions.flatMap(({ codes }) => codes)),
];

/** A message with the address on its envelope, to which it comes back if it does. */
export interface Made {
  returnPath: string;
  message: Uint8Array;
}

/** Makes the messages of one dispatch. */
export interface Maker {
  /** The batches of which some readers have a code. */
  batches: readonly string[];
  /** One reader's message. */
  make(to: Delivered, codes?: Codes): Promise<Made>;
  /** The HTML of one reader's message. */
  html(to: Delivered, codes?: Codes): string;
}

/** Readies what a dispatch froze for its readers. */
export async function makerOf(
  septima: Septima,
  dispatch: { id: string; campaignId: string },
  frozen: Frozen,
): Promise<Maker> {
  const { bound, factory, reader, octets } = makingOf(await secretOf(septima), dispatch, frozen);
  const signing = signingOf(factory);
  const envelope = await envelopesOf(septima, dispatch.id);
  return {
    batches: batchesOf(frozen),
    html: (to, codes) => personalise(bound, reader(to, codes)).html,
    async make(to, codes) {
      const those = reader(to, codes);
      const from = factory.from(those);
      const signers = to.turn === null ? [] : await signersOf(septima, signingDomain(from), to.turn);
      return {
        returnPath: envelope(to.id, from),
        message: await signing.signed(octets(to, those), signers, to.at.getTime()),
      };
    },
  };
}

/** Somebody a message was sent to, and what makes it again. @throws Refusal as `messageAsSent` */
async function sentTo(septima: Septima, dispatchId: string, contactId: number) {
  const [row] = await septima.db.query<Delivered & { campaignId: string }>(
    `select ${DELIVERED}, d.campaign_id as "campaignId" from recipients r join dispatches d on d.id = r.dispatch_id
     where r.dispatch_id = $1 and r.contact_id = $2`,
    [dispatchId, contactId],
  );
  if (!row) throw new Refusal("This reader was not among those of this sending.", 404);
  const frozen = await frozenOf(septima, dispatchId);
  if (!frozen || row.edition === null)
    throw new Refusal(
      "What went into this message was not kept: it is from before Septima did. The design is there as it was sent.",
      404,
    );
  if (row.at === null)
    throw new Refusal("This reader’s turn has not come: nothing was sent to them yet.", 404);
  const maker = await makerOf(septima, { id: dispatchId, campaignId: row.campaignId }, frozen);
  const codes = await codesOf(septima.db, row.campaignId, maker.batches, [contactId]);
  return { maker, to: row, codes: codes.get(contactId) };
}

/**
 * The message that a reader got, octet for octet.
 * @throws Refusal when they were not in that sending, their turn has not come, or it is from before there was a ledger
 */
export async function messageAsSent(
  septima: Septima,
  dispatchId: string,
  contactId: number,
): Promise<Uint8Array> {
  const { maker, to, codes } = await sentTo(septima, dispatchId, contactId);
  return (await maker.make(to, codes)).message;
}

/** The HTML of the message that a reader got. @throws Refusal as `messageAsSent` */
export async function htmlAsSent(septima: Septima, dispatchId: string, contactId: number): Promise<string> {
  const { maker, to, codes } = await sentTo(septima, dispatchId, contactId);
  return maker.html(to, codes);
}
