/** A campaign’s email as somebody looks at it: as any reader, as a class of mail programs shows it, and where it is cut. */
import { randomInt } from "node:crypto";
import { type Contact, contactName } from "~/core/audience";
import { asSeen, CLIPPED, type InboxName, withClip } from "~/core/inboxes";
import { contactById, contactsById } from "../audience/contacts";
import { selectedReaders } from "../audience/selection";
import type { Septima } from "../septima";
import { campaign } from "./campaigns";
import { editionsOrWhy, lookFor, NOBODY } from "./rendering";

/** Readers who are not chosen by name: any, one of the rarest edition, the one with the longest name, nobody of whom anything is known. */
export type StandIn = "random" | "rarest" | "longest" | "nobody";

/** How a campaign is looked at. */
interface Looked {
  /** A contact, somebody who stands in, or whoever gets what most get. */
  reader: number | StandIn | null;
  /** As it is sent when missing. */
  inbox?: InboxName;
  /** How much larger letters are, 1 as they are. */
  letters: number;
}

/** Somebody who stands in for readers of a kind; null where there is nobody. */
async function standIn(
  septima: Septima,
  who: StandIn,
  readers: Parameters<typeof selectedReaders>[1],
  rarest: Contact | undefined,
): Promise<Contact | null> {
  if (who === "nobody") return null;
  if (who === "rarest") return rarest ?? null;
  const { readers: all } = await selectedReaders(septima, readers, []);
  const ids = [...all];
  if (ids.length === 0) return null;
  if (who === "random") return contactById(septima, ids[randomInt(ids.length)]);
  const [row] = await septima.db.query<{ id: number }>(
    `select id from contacts where id = any($1)
     order by length(coalesce(fields ->> 'first_name', '') || coalesce(fields ->> 'last_name', '')) desc, id limit 1`,
    [ids],
  );
  return row ? ((await contactsById(septima, [row.id])).get(row.id) ?? null) : null;
}

/** A look at a campaign. @throws Refusal when it or the reader is gone */
export async function previewOf(septima: Septima, id: string, { reader, inbox, letters }: Looked) {
  const { email, readers } = await campaign(septima, id);
  const { editions, trouble } = await editionsOrWhy(septima, email, readers, id);
  const contact =
    typeof reader === "number"
      ? await contactById(septima, reader)
      : reader === null
        ? (editions[0]?.sample ?? null)
        : await standIn(septima, reader, readers, editions.at(-1)?.sample);
  const { message, look } = await lookFor(septima, email, contact ?? NOBODY, { campaign: id });
  const bytes = new TextEncoder().encode(message.html).length;
  const changed = inbox !== undefined || letters !== 1;
  const html = changed ? asSeen(message.html, inbox ?? "light", { letters }) : message.html;
  return {
    contact,
    name: contact ? contactName(contact) : null,
    trouble,
    policy: look.policy,
    senderName: message.senderName,
    subject: message.subject,
    preheader: message.preheader,
    text: message.text,
    html: bytes > CLIPPED ? withClip(html, message.html) : html,
    bytes,
    editions: editions.map(({ count, sample }) => ({ count, sample: sample.id, name: contactName(sample) })),
  };
}
export type Preview = Awaited<ReturnType<typeof previewOf>>;
