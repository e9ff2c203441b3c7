/** Readers and content of a sending, frozen when its moment has come; everything that was asked when it was booked is asked again. */
import {
  type AudienceContext,
  type Contact,
  contactName,
  isAnswerable,
  RuleError,
  testsIn,
} from "~/core/audience";
import { placedIn, sourcesShown } from "~/core/blocks";
import { senderOf, signingDomain } from "~/core/mime";
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
import { notSigned } from "~/core/preflight";
import { hasDrifted } from "~/core/sending";
import { CONTACT_COLUMNS, OWN_COLUMNS, wholeFrom } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { recipientsSql } from "../audience/selection";
import { boundEmail, sharedHeaders } from "../campaigns/rendering";
import { allowBroad, type Queries } from "../db/database";
import { signedDomains } from "../mail/signing-keys";
import { findingsIn } from "../preflight/preflight";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { CodesShort, reserveCodes } from "../sources/codes";
import { type Picks, picksFor } from "../sources/picks";
import { refreshAll } from "../sources/sources";
import { brandOf } from "../workspace/settings";
import { type Booked, moveDispatch, stateOf } from "./dispatches";
import { type Frozen, keepFrozen } from "./frozen";

/** Clearly more or fewer would get it than were confirmed. */
class Drifted extends Error {
  constructor(
    readonly confirmed: number,
    readonly found: number,
  ) {
    const number = (readers: number) =>
      `${readers.toLocaleString("en")} ${readers === 1 ? "reader" : "readers"}`;
    super(
      `${number(confirmed)} were confirmed, but it would go to ${number(found)} now. Nobody got anything yet. Resume to send it to ${found.toLocaleString("en")}, or cancel it and look at Readers.`,
    );
  }
}

/**
 * Writes one row per reader and freezes all that goes into their messages, all or nothing. Whatever stands in the way pauses the dispatch
 * with a sentence that says what it is.
 */
export async function gather(world: Septima, dispatch: Booked): Promise<void> {
  // Who gets it and what is in it is asked anew, whatever this process knows.
  const septima = { ...world, cache: new Map() };
  try {
    await refreshAll(septima, sourcesShown(dispatch.email));
    const obstacles = (await findingsIn(septima, dispatch)).filter(({ weight }) => weight === "stops");
    if (obstacles.length > 0) {
      const words = `${obstacles.map(({ text }) => text).join(" ")} Nobody got anything yet.`;
      throw new Refusal(words);
    }
    await freeze(septima, dispatch);
  } catch (error) {
    // What was begun before an orderly stop begins anew after the next start.
    if (septima.stopping.aborted) throw error;
    if (error instanceof Elsewhere) return;
    const known =
      error instanceof Refusal ||
      error instanceof RuleError ||
      error instanceof CodesShort ||
      error instanceof Drifted;
    await moveDispatch(
      septima,
      dispatch.id,
      "gathering",
      "paused",
      known
        ? (error as Error).message
        : `Its readers could not be gathered: ${(error as Error).message}. Nobody got anything yet. Resume to try again.`,
    );
    if (error instanceof Drifted)
      await septima.db.query("update dispatches set found = $2 where id = $1", [dispatch.id, error.found]);
    if (!known) throw error;
  }
}

/** Somebody else gathered it meanwhile, or it was cancelled: there is nothing to do. */
class Elsewhere extends Error {}

/** @throws Drifted, CodesShort, RuleError, Elsewhere; then nothing was written */
async function freeze(septima: Septima, dispatch: Booked): Promise<void> {
  const { id, campaignId, confirmed, tolerance, email } = dispatch;
  const context = await audienceContext(septima);
  const at = new Date(septima.now());
  const picks = await picksFor(septima, email, campaignId);
  const bound = await boundEmail(septima, email, { tags: dispatch.tags, counted: true, picks });
  const shared = await sharedOf(septima, dispatch);
  const signed = await signedDomains(septima);
  await septima.db.transaction(async (tx) => {
    await allowBroad(tx);
    // Of two who gather the same the second waits, and finds it done.
    await tx.query("select pg_advisory_xact_lock(hashtext('gathering'), hashtext($1))", [id]);
    if ((await stateOf(tx, id)) !== "gathering") throw new Elsewhere();
    const chosen = recipientsSql(dispatch.repeats ? null : campaignId, dispatch.readers, context);
    const { total, program, shown, senders } = await writeRecipients(
      tx,
      { bound, context, picks },
      { id, at },
      chosen,
    );
    const unsigned = notSigned(
      [...new Set([...senders].map(signingDomain))].filter((domain) => domain !== "" && !signed.has(domain)),
    );
    if (unsigned) throw new Refusal(`${unsigned} Nobody got anything yet.`);
    if (hasDrifted(confirmed, total, tolerance)) throw new Drifted(confirmed, total);
    // In the same order everywhere, so that two dispatches do not wait for each other.
    for (const [batch, readers] of [...shown].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const { name, missing } = await reserveCodes(tx, { id, campaignId, at }, batch, readers);
      if (missing > 0 && mustHaveCode(bound, batch)) throw new CodesShort(name, missing);
    }
    const moved = await tx.query(
      `update dispatches set state = 'sending', total = $2, gathered_at = $3, marks = $4::jsonb
       where id = $1 and state = 'gathering' returning id`,
      [id, total, at, JSON.stringify(picks.marks)],
    );
    if (moved.length === 0) throw new Elsewhere();
    // The next date is compared with this one.
    if (dispatch.repeats)
      await tx.query(
        "update bookings set confirmed = $2 where id = (select booking_id from dispatches where id = $1)",
        [id, total],
      );
    await keepFrozen(tx, id, { program, ...shared });
  });
}

/** What all messages of a dispatch share. */
async function sharedOf(
  septima: Septima,
  { id, campaignId, email }: Booked,
): Promise<Omit<Frozen, "program">> {
  const of = { campaign: campaignId, sending: id };
  return {
    headers: sharedHeaders(email, await brandOf(septima), of),
    origin: septima.config.readers,
    placed: placedIn(email),
  };
}

/** Freezes what a dispatch still has to send that was gathered before anything was frozen. */
export async function freezeLate(septima: Septima, dispatch: Booked): Promise<void> {
  const { id, email, tags } = dispatch;
  const context = await audienceContext(septima);
  const picks = await picksFor(septima, email, dispatch.campaignId);
  const bound = await boundEmail(septima, email, {
    tags,
    counted: true,
    picks,
  });
  const shared = await sharedOf(septima, dispatch);
  await septima.db.transaction(async (tx) => {
    const [open] = await tx.query("select 1 from dispatches where id = $1 and frozen is null for update", [
      id,
    ]);
    if (!open) return;
    const waiting = {
      sql: "exists (select 1 from recipients r where r.dispatch_id = $1 and r.contact_id = c.id and r.state in ('pending', 'handing'))",
      params: [id],
    };
    const at = new Date(septima.now());
    const { program } = await writeRecipients(tx, { bound, context, picks }, { id, at }, waiting);
    await keepFrozen(tx, id, { program, ...shared });
  });
}

/** So many recipients are written in one go. */
const STRETCH = 5000;

/** What came of writing the recipients of a dispatch. */
interface Written {
  total: number;
  program: FrozenProgram;
  /** Who is shown a code, by the key of the batch; every batch that a tag names is there. */
  shown: Map<string, number[]>;
  /** The addresses that readers get it from, where they differ. */
  senders: Set<string>;
}

/**
 * Writes one row for each reader: which edition is theirs, and what the program writes of them. In one pass over those
 * whom the condition on `contacts c` meets, within the transaction, so that all of it is of one moment.
 */
async function writeRecipients(
  tx: Queries,
  { bound, context, picks }: { bound: Bound; context: AudienceContext; picks: Picks },
  dispatch: { id: string; at: Date },
  chosen: { sql: string; params: unknown[] },
): Promise<Written> {
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
    const names = all.map((contact) => contactName(contact));
    if (own) for (const contact of all) senders.add(senderOf(bound, anonymous(contact), ""));
    await written;
    written = quietly(
      tx.query(
        `insert into recipients (dispatch_id, contact_id, edition, address, name, facts, changed_at)
       select $1, r.id, r.edition, r.address, nullif(r.name, r.address), r.facts, $2
       from unnest($3::int[], $4::int[], $5::text[], $6::text[], $7::text[]) as r(id, edition, address, name, facts)
       on conflict (dispatch_id, contact_id) do update
         set edition = excluded.edition, address = excluded.address, name = excluded.name, facts = excluded.facts`,
        [
          dispatch.id,
          dispatch.at,
          all.map(({ id }) => id),
          editions,
          all.map(({ email }) => email),
          names,
          all.map((contact) => JSON.stringify(keeper.facts(contact))),
        ],
      ),
    );
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

/** Whether readers would get nothing where a code is missing. */
function mustHaveCode({ slots }: Bound, batch: string): boolean {
  const own = slots.filter(({ field }) => isCode(field) && batchOf(field) === batch);
  // An address that words stand beside may do without.
  const words = own.filter(({ sink }) => sink !== "component");
  return (words.length > 0 ? words : own).some(({ fallback }) => fallback.trim() === "");
}
