/** Who gets a dispatch and which edition: in one pass over the chosen, whatever is done with each of them. */
import { type AudienceContext, type Contact, contactName, isAnswerable, testsIn } from "~/core/audience";
import { placedIn } from "~/core/blocks";
import type { Email, TagFacts } from "~/core/email";
import { senderOf } from "~/core/mime";
import {
  type Bound,
  batchOf,
  type EditionCount,
  editionCounter,
  editionQuestions,
  type FrozenProgram,
  hasWords,
  isCode,
  keeperOf,
  previewAddresses,
  readerOf,
} from "~/core/personal";
import { CONTACT_COLUMNS, OWN_COLUMNS, wholeFrom } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { boundEmail, sharedHeaders } from "../campaigns/rendering";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";
import { type Picks, picksFor } from "../sources/picks";
import { brandOf } from "../workspace/settings";
import type { Frozen } from "./making";

/** What is sent: a design as it was booked, or as it is. */
interface Sent {
  id: string;
  campaignId: string;
  email: Email;
  tags: TagFacts;
}

/** A design bound to what is live in it, with what is asked of readers. */
export interface Content {
  bound: Bound;
  context: AudienceContext;
  picks: Picks;
}

/** A condition on `contacts c`. */
export interface Chosen {
  sql: string;
  params: unknown[];
}

export async function contentOf(
  septima: Septima,
  { email, tags, campaignId }: Omit<Sent, "id">,
): Promise<Content> {
  const context = await audienceContext(septima);
  const picks = await picksFor(septima, email, campaignId);
  return { context, picks, bound: await boundEmail(septima, email, { tags, counted: true, picks }) };
}

/** What all messages of a dispatch share. */
export async function sharedOf(
  septima: Septima,
  { id, campaignId, email }: Omit<Sent, "tags">,
): Promise<Omit<Frozen, "program">> {
  const of = { campaign: campaignId, sending: id };
  return {
    headers: sharedHeaders(email, await brandOf(septima), of),
    origin: septima.config.readers,
    placed: placedIn(email),
  };
}

/** So many recipients are worked out in one go. */
const STRETCH = 5000;

/** Some recipients, a column for each thing known of them. */
export interface Recipients {
  ids: number[];
  editions: number[];
  addresses: string[];
  /** Null for who has none but the address. */
  names: (string | null)[];
  /** What the program writes of them, as JSON. */
  facts: string[];
}

/** What came of going over the recipients of a dispatch. */
export interface Gathered {
  total: number;
  program: FrozenProgram;
  /** Who is shown a code, by the key of the batch; every batch that a tag names is there. */
  shown: Map<string, number[]>;
  /** The addresses that readers get it from, where they differ. */
  senders: Set<string>;
}

/**
 * Goes over those whom the condition meets, within the transaction, so that all of it is of one moment.
 * @param keep what is done with each stretch of them, one after the other
 */
export async function eachRecipient(
  tx: Queries,
  { bound, context, picks }: Content,
  chosen: Chosen,
  keep: (rows: Recipients) => Promise<unknown>,
): Promise<Gathered> {
  const shown = new Map<string, number[]>();
  for (const { field } of bound.slots) if (isCode(field)) shown.set(batchOf(field), []);
  const { fields } = editionQuestions(bound);
  const keeper = keeperOf(bound);
  let contacts = new Map<number, Contact>();
  const counter = editionCounter(bound, {
    meets: (rule, reader) => bound.rules[rule](contacts.get(reader)!),
    writes: (which, reader) => fields[which].some((field) => hasWords(field, contacts.get(reader)!)),
    language: (reader) => {
      const { language } = contacts.get(reader)!.fields;
      return typeof language === "string" ? language : null;
    },
  });
  const places = new Map<EditionCount, number>();
  const senders = new Set<string>();
  const own = hasOwnSenders(bound);
  let total = 0;
  const asked = bound.asked.filter((rule) => isAnswerable(rule, context));
  const onLists = asked.some((rule) => testsIn(rule, context).some(({ kind }) => kind === "list"));
  await tx.query(
    `declare gathered no scroll cursor for
     select ${onLists ? CONTACT_COLUMNS : OWN_COLUMNS} from contacts c where ${chosen.sql} order by c.id for key share of c`,
    chosen.params,
  );
  // The database fetches and writes some while others are worked out here.
  const fetched = () => quietly(tx.query<Contact>(`fetch ${STRETCH} from gathered`));
  let written: Promise<unknown> = Promise.resolve();
  let coming = fetched();
  for (let rows = await coming; rows.length > 0; rows = await coming) {
    coming = fetched();
    total += rows.length;
    contacts = new Map(
      (await wholeFrom(tx, rows, context, bound.asked)).map((contact) => [contact.id, contact]),
    );
    await picks.ready(tx, [...contacts.keys()]);
    const editions: number[] = [];
    counter.take(contacts.keys(), (reader, edition) => {
      let place = places.get(edition);
      if (place === undefined) {
        place = places.size;
        places.set(edition, place);
      }
      editions.push(place);
      for (const batch of edition.codes) shown.get(batch)?.push(reader);
    });
    const all = [...contacts.values()];
    if (own) for (const contact of all) senders.add(senderOf(bound, anonymous(contact), ""));
    const worked = {
      ids: all.map(({ id }) => id),
      editions,
      addresses: all.map(({ email }) => email),
      names: all.map((contact) => nameOf(contact)),
      facts: all.map((contact) => JSON.stringify(keeper.facts(contact))),
    };
    await written;
    written = quietly(keep(worked));
  }
  await written;
  await tx.query("close gathered");
  return { total, program: keeper.freeze([...places.keys()]), shown, senders };
}

/** What fails later is told to whoever waits for it, and to nobody else. */
function quietly<T>(work: Promise<T>): Promise<T> {
  work.catch(() => undefined);
  return work;
}

/** Whether the address it comes from depends on who reads it. */
const hasOwnSenders = ({ senderAddress }: Bound) => senderAddress.some(({ op }) => op !== "static");

/** A reader whose addresses nobody asks for. */
const anonymous = (contact: Contact) => readerOf(contact, "en", previewAddresses(""));

/** What a contact is called; null when that is only their address. */
function nameOf(contact: Contact): string | null {
  const name = contactName(contact);
  return name === contact.email || name === "" ? null : name;
}
