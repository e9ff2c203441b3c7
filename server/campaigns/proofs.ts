import { randomInt } from "node:crypto";
import { type Contact, contactName, parseAddresses } from "~/core/audience";
import type { Email } from "~/core/email";
import { domainOf, MessageFactory } from "~/core/mime";
import { type Bound, previewAddresses, readerOf } from "~/core/personal";
import { escapeHtml } from "~/core/program";
import { contactById, contactsById } from "../audience/contacts";
import { selectedReaders } from "../audience/selection";
import { sendSigned, signingOf } from "../mail/leaving";
import { RelayError } from "../mail/relay";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { campaign } from "./campaigns";
import { editionsFor, type OwnEdition } from "./editions";
import { boundEmail, editionsOf, fixedSender, orNone, sharedHeaders } from "./rendering";

export interface Proof {
  id: string;
  addresses: string[];
  reader: string;
  /** Which edition it showed, and why that reader gets it; empty where that was not asked. */
  edition: string;
  note: string;
  sentAt: string;
}

/** The proofs of a campaign, newest first. */
export async function proofs(septima: Septima, campaignId: string): Promise<Proof[]> {
  const rows = await septima.db.query<{
    id: string;
    addresses: string[];
    note: string;
    edition: string;
    sent_at: Date;
    contact_id: number;
    email: string;
    fields: Record<string, unknown>;
  }>(
    `select p.id, p.addresses, p.note, p.edition, p.sent_at, c.id as contact_id, c.email, c.fields
     from proofs p join contacts c on c.id = p.contact_id where campaign_id = $1 order by sent_at desc limit 50`,
    [campaignId],
  );
  return rows.map((row) => ({
    id: row.id,
    addresses: row.addresses,
    reader: contactName({ id: row.contact_id, email: row.email, fields: row.fields, lists: [] }),
    note: row.note,
    edition: row.edition,
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

/** As whom a proof is sent: one reader, one of each edition, or some at random. */
export type ProofAs = "reader" | "editions" | "random";
/** So many messages one proof is at most: addresses times readers. */
const MOST = 60;
/** So many readers are some. */
export const SOME = 5;

/** The readers as whom a proof is sent. @throws Refusal where there are none, or too many */
async function proofReaders(
  septima: Septima,
  campaignId: string,
  { as, contactId }: { as: ProofAs; contactId: number },
): Promise<Contact[]> {
  if (as === "reader") return [await contactById(septima, contactId)];
  const { email, readers } = await campaign(septima, campaignId);
  if (as === "editions") {
    const { editions } = await editionsOf(septima, email, readers, campaignId);
    return editions.map(({ sample }) => sample);
  }
  const ids = [...(await selectedReaders(septima, readers, [])).readers];
  const some = new Set<number>();
  while (some.size < Math.min(SOME, ids.length)) some.add(ids[randomInt(ids.length)]);
  return [...(await contactsById(septima, [...some])).values()];
}

/** Which edition a proof shows and why, as it says itself. */
function editionSaid(own: OwnEdition | undefined): string {
  if (!own) return "They are not among its readers now.";
  const { number, of, count, traits } = own;
  const who = count === 1 ? "1 reader gets it" : `${count.toLocaleString("en")} readers get it`;
  const why = traits.length === 0 ? "what everybody gets" : traits.join(", ");
  return `Edition ${number} of ${of}; ${who}: ${why}.`;
}

/**
 * Sends a proof as one or several readers. Each message says whose it is, which edition and why; its unsubscribe link
 * unsubscribes nobody.
 * @returns the addresses, and as how many readers
 * @throws Refusal naming each address that is none, or what the relay answered
 */
export async function sendProof(
  septima: Septima,
  campaignId: string,
  proof: { to: string; contactId: number; note: string; as?: ProofAs; marked?: boolean },
): Promise<{ addresses: string[]; readers: number }> {
  const { as = "reader", marked = true } = proof;
  const addresses = proofAddresses(proof.to);
  const { email } = await campaign(septima, campaignId);
  if (email.envelope.subject.length === 0)
    throw new Refusal("Write a subject first: mail programs show it before anything else.");
  const contacts = await proofReaders(septima, campaignId, { as, contactId: proof.contactId });
  if (contacts.length === 0)
    throw new Refusal("There is nobody to send it as: choose readers first, or one reader here.");
  if (contacts.length * addresses.length > MOST)
    throw new Refusal(
      `That would be ${contacts.length * addresses.length} messages: ${contacts.length} readers times ${addresses.length}. One proof is ${MOST} at most. Send it to fewer addresses, or as fewer readers.`,
    );
  const editions = await orNone(
    editionsFor(
      septima,
      campaignId,
      contacts.map(({ id }) => id),
    ),
  );
  const sending: ProofSending = { septima, campaignId, email, addresses, note: proof.note, marked };
  for (const [at, contact] of contacts.entries()) {
    const edition = editionSaid(editions?.get(contact.id));
    try {
      await sendAs(sending, contact, edition);
    } catch (error) {
      if (!(error instanceof Refusal) || at === 0) throw error;
      throw new Refusal(`${error.message} As ${at} of ${contacts.length} readers it was sent before.`);
    }
  }
  return { addresses, readers: contacts.length };
}

interface ProofSending {
  septima: Septima;
  campaignId: string;
  email: Email;
  addresses: readonly string[];
  note: string;
  /** Whether the subject says that it is a proof. */
  marked: boolean;
}

async function sendAs(
  { septima, campaignId, email, addresses, note, marked }: ProofSending,
  contact: Contact,
  edition: string,
): Promise<void> {
  const brand = await brandOf(septima);
  const bound = withNote(
    await boundEmail(septima, email, { campaign: campaignId, readers: [contact.id] }),
    `Proof, as ${contactName(contact)} would get it. ${edition}${note ? ` ${note}` : ""}`,
  );
  const id = septima.newId();
  const domain = domainOf(fixedSender(email.envelope.sender, brand));
  const factory = new MessageFactory(
    bound,
    {
      ...sharedHeaders(email, brand, { campaign: campaignId, sending: id }),
      proof: { subjectPrefix: marked ? "Proof: " : "" },
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
    "insert into proofs (id, campaign_id, addresses, contact_id, note, edition, sent_at) values ($1, $2, $3::jsonb, $4, $5, $6, $7)",
    [id, campaignId, JSON.stringify(addresses), contact.id, note, edition, new Date(septima.now())],
  );
}

/** A group of addresses that proofs go to. */
export interface ProofGroup {
  name: string;
  addresses: string[];
}

/** The groups that proofs go to, by name. */
export const proofGroups = (septima: Septima): Promise<ProofGroup[]> =>
  septima.db.query<ProofGroup>("select name, addresses from proof_groups order by lower(name)");

/**
 * Keeps a group of addresses; one of the same name is replaced.
 * @throws Refusal without a name, or naming each address that is none
 */
export async function keepProofGroup(septima: Septima, name: string, to: string): Promise<void> {
  if (name.trim() === "") throw new Refusal("Give the group a name.");
  await septima.db.query(
    "insert into proof_groups (name, addresses) values ($1, $2::jsonb) on conflict (name) do update set addresses = excluded.addresses",
    [name.trim().slice(0, 80), JSON.stringify(proofAddresses(to))],
  );
}

/** Forgets a group of addresses. */
export async function dropProofGroup(septima: Septima, name: string): Promise<void> {
  await septima.db.query("delete from proof_groups where name = $1", [name]);
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
