import { type ParsedMail, simpleParser } from "mailparser";
import type { Life, Living, Manner } from "~/core/sending";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import type { StoredMessage } from "./mailboxes";

/** A message taken apart for reading. */
export interface OpenMessage {
  id: string;
  from: string;
  to: string;
  subject: string;
  date: string | null;
  html: string | null;
  text: string;
  /** Name and value as they stand in the message, in order. */
  headers: { name: string; value: string }[];
  source: string;
  size: number;
}

/** What the postroom holds, newest first. */
export async function searchMail(
  septima: Septima,
  query: { text: string; offset: number; limit: number },
): Promise<{ total: number; messages: StoredMessage[] } | null> {
  return septima.mailboxes ? septima.mailboxes.search(query) : null;
}

/**
 * One message of the postroom.
 * @throws Refusal when it is not there
 */
export async function openMail(septima: Septima, id: string): Promise<OpenMessage> {
  return readMail(await mailSource(septima, id), id);
}

/** Takes a message apart. @param id under which it is known */
export async function readMail(source: Buffer, id: string): Promise<OpenMessage> {
  const mail = await simpleParser(source, { skipImageLinks: true });
  return {
    id,
    from: addressText(mail.from),
    to: addressText(mail.to),
    subject: mail.subject ?? "",
    date: mail.date?.toISOString() ?? null,
    html: mail.html || null,
    text: mail.text ?? "",
    headers: mail.headerLines.map(({ key, line }) => {
      const colon = line.indexOf(":");
      return { name: line.slice(0, colon) || key, value: line.slice(colon + 1).trim() };
    }),
    source: source.toString("utf8"),
    size: source.length,
  };
}

/** The message as it came over the wire. */
export async function mailSource(septima: Septima, id: string): Promise<Buffer> {
  const source = await septima.mailboxes?.source(id);
  if (!source) throw new Refusal("This message is not in the postroom any more.", 404);
  return source;
}

/** Throws away all messages of the postroom. */
export async function emptyPostroom(septima: Septima): Promise<void> {
  await septima.mailboxes?.empty();
}

function addressText(addresses: ParsedMail["to"]): string {
  const list = addresses === undefined ? [] : Array.isArray(addresses) ? addresses : [addresses];
  return list.map((one) => one.text).join(", ");
}

/** How the mailboxes of the postroom behave that do not simply take what comes. */
export async function mailboxManners({ mailboxes }: Septima): Promise<readonly Manner[]> {
  return (await mailboxes?.manners()) ?? [];
}

/** How the readers of the postroom live; null where there is no postroom. */
export async function readersLiving({ mailboxes }: Septima): Promise<Living | null> {
  return (await mailboxes?.living()) ?? null;
}

/** Lets the readers of the postroom live so from now on; null lets them be. @throws Refusal (409) where there is no postroom */
export async function letLive({ mailboxes }: Septima, life: Life | null): Promise<void> {
  if (!mailboxes) throw new Refusal("There is no postroom here: mail goes to a real relay.", 409);
  await mailboxes.live(life);
}

/** Lets the mailboxes of the postroom behave otherwise. @throws Refusal (409) where there is no postroom */
export async function teachManners({ mailboxes }: Septima, manners: readonly Manner[]): Promise<void> {
  if (!mailboxes) throw new Refusal("There is no postroom here: mail goes to a real relay.", 409);
  await mailboxes.behave(manners);
}
