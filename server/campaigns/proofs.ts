import { contactName, parseAddresses } from "~/core/audience";
import { domainOf, MessageFactory } from "~/core/mime";
import { type Bound, previewAddresses, readerOf } from "~/core/personal";
import { escapeHtml } from "~/core/program";
import { contactById } from "../audience/contacts";
import { sendSigned, signingOf } from "../mail/leaving";
import { RelayError } from "../mail/relay";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { campaign } from "./campaigns";
import { boundEmail, fixedSender, sharedHeaders } from "./rendering";

export interface Proof {
  id: string;
  addresses: string[];
  reader: string;
  note: string;
  sentAt: string;
}

/** The proofs of a campaign, newest first. */
export async function proofs(septima: Septima, campaignId: string): Promise<Proof[]> {
  const rows = await septima.db.query<{
    id: string;
    addresses: string[];
    note: string;
    sent_at: Date;
    contact_id: number;
    email: string;
    fields: Record<string, unknown>;
  }>(
    `select p.id, p.addresses, p.note, p.sent_at, c.id as contact_id, c.email, c.fields
     from proofs p join contacts c on c.id = p.contact_id where campaign_id = $1 order by sent_at desc limit 50`,
    [campaignId],
  );
  return rows.map((row) => ({
    id: row.id,
    addresses: row.addresses,
    reader: contactName({ id: row.contact_id, email: row.email, fields: row.fields, lists: [] }),
    note: row.note,
    sentAt: row.sent_at.toISOString(),
  }));
}

/** Checks the addresses of a proof, and says word for word what is wrong. */
function proofAddresses(text: string): string[] {
  const { addresses, mistakes } = parseAddresses(text);
  if (mistakes.length > 0) {
    throw new Refusal(
      `${mistakes.map((word) => `“${word}”`).join(", ")} ${mistakes.length === 1 ? "is not an address" : "are not addresses"}. Mend ${mistakes.length === 1 ? "it" : "them"}; nothing was sent.`,
    );
  }
  if (addresses.length === 0) throw new Refusal("Say to whom the proof goes: one or several addresses.");
  if (addresses.length > 20)
    throw new Refusal(`A proof goes to at most 20 addresses, these are ${addresses.length}.`);
  return addresses;
}

/**
 * Sends a proof as a chosen reader. The message says whose it is; its unsubscribe link unsubscribes nobody.
 * @throws Refusal naming each address that is none, or what the relay answered
 */
export async function sendProof(
  septima: Septima,
  campaignId: string,
  proof: { to: string; contactId: number; note: string },
): Promise<string[]> {
  const addresses = proofAddresses(proof.to);
  const { email } = await campaign(septima, campaignId);
  if (email.envelope.subject.length === 0)
    throw new Refusal("Write a subject first: mail programs show it before anything else.");
  const contact = await contactById(septima, proof.contactId);
  const brand = await brandOf(septima);
  const bound = withNote(
    await boundEmail(septima, email, { campaign: campaignId, readers: [contact.id] }),
    `Proof, as ${contactName(contact)} would get it.${proof.note ? ` ${proof.note}` : ""}`,
  );
  const id = septima.newId();
  const domain = domainOf(fixedSender(email.envelope.sender, brand));
  const factory = new MessageFactory(
    bound,
    {
      ...sharedHeaders(email, brand, { campaign: campaignId, sending: id }),
      proof: { subjectPrefix: "Proof: " },
    },
    `septima-${id}`,
  );
  const system = previewAddresses(septima.config.readers);
  const reader = readerOf(contact, email.language, system);
  const signing = signingOf(factory);
  const done: string[] = [];
  for (const [index, address] of addresses.entries()) {
    const at = septima.now();
    const message = factory.build(reader, {
      to: { name: "", address },
      messageId: `proof.${id}.${index}@${domain}`,
      date: at,
      unsubscribe: system.unsubscribe,
    });
    try {
      await sendSigned(septima, signing, { from: factory.from(reader), to: address }, message, at);
      done.push(address);
    } catch (error) {
      if (!(error instanceof RelayError)) throw error;
      const others = done.length > 0 ? ` ${done.join(", ")} got theirs.` : " Nothing was sent.";
      throw new Refusal(`${error.message}${others}`);
    }
  }
  await septima.db.query(
    "insert into proofs (id, campaign_id, addresses, contact_id, note, sent_at) values ($1, $2, $3::jsonb, $4, $5, $6)",
    [id, campaignId, JSON.stringify(addresses), contact.id, proof.note, new Date(septima.now())],
  );
  return addresses;
}

/** Puts a line above the email, in HTML and text. */
function withNote(bound: Bound, note: string): Bound {
  const bar = `<div style="padding:10px 16px;background-color:#FFF4D6;color:#3A2A00;font-family:Helvetica,Arial,sans-serif;font-size:14px;line-height:1.45;">${escapeHtml(note)}</div>`;
  return {
    ...bound,
    html: bound.html.map((op) =>
      op.op === "static"
        ? { ...op, text: op.text.replace('<div role="article"', `${bar}<div role="article"`) }
        : op,
    ),
    text: [
      { op: "static", text: `${note}\n\n` },
      ...bound.text.map((op) => ("to" in op ? { ...op, to: op.to + 1 } : op)),
    ],
  };
}
