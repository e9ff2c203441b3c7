import { createHash } from "node:crypto";
import { serialize } from "node:v8";
import { asksHistory, Bits, type Contact, isAnswerable, RuleError } from "~/core/audience";
import {
  type Brand,
  type Email,
  hasTyped,
  remembered,
  resolveTheme,
  same,
  type TagFacts,
} from "~/core/email";
import { domainOf, type Headers } from "~/core/mime";
import {
  type Bound,
  batchOf,
  bind,
  type Edition,
  type EditionCount,
  editionCounter,
  editionQuestions,
  isCode,
  joinSame,
  type Message,
  personalise,
  previewAddresses,
  readerOf,
} from "~/core/personal";
import type { Program } from "~/core/program";
import { type CompileOptions, compile } from "~/core/render";
import { type Ask, audienceNow, behaviourNow, languagesOf } from "../audience/answers";
import { contactById, contactsById } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { rulesOf, type Selection, selectedReaders } from "../audience/selection";
import type { Septima } from "../septima";
import { type Picks, picksFor } from "../sources/picks";
import { itemsLinked, withItemsNow } from "../sources/placed";
import { brandOf } from "../workspace/settings";
import { allThemes } from "../workspace/themes";
import { campaign } from "./campaigns";
import { type Framed, framed } from "./frames";
import { tagFacts } from "./tag-facts";

/** Somebody of whom nothing is known, where there is nobody. */
export const NOBODY: Contact = { id: 0, email: "reader@organisation.example", fields: {}, lists: [] };

/** What a design is compiled and bound with, where it is not what is now: what was kept of it earlier. */
interface Given {
  tags?: TagFacts;
  campaign?: string;
  /** Whether it is made for good, and what readers do with it is counted. */
  counted?: boolean;
  /** Whether blocks are marked, for those who look a message over. */
  places?: boolean;
  picks?: Picks;
  /** Whose past is looked up for what is picked for each reader; nobody’s when missing. */
  readers?: readonly number[];
}

const lastProgram = remembered((_: Email): { with?: CompileOptions; program?: Program } => ({}));

/** A design compiled; by those who look at it page after page it is compiled once. */
function programOf(email: Email, options: CompileOptions): Program {
  const last = lastProgram(email);
  if (last.program && same(last.with, options)) return last.program;
  const program = compile(email, options);
  Object.assign(last, { with: options, program });
  return program;
}

/** A design compiled and bound to what the sources hold and tags may ask. */
export async function boundEmail(septima: Septima, email: Email, given: Given = {}): Promise<Bound> {
  const audience = await audienceContext(septima);
  const program = programOf(await withItemsNow(septima, email), {
    today: audience.today,
    ...(given.tags ?? (await tagFacts(septima, given.campaign))),
    items: await itemsLinked(septima, email),
    theme: resolveTheme(email.theme, await allThemes(septima)),
    brand: await brandOf(septima),
    origin: septima.config.readers,
    ...(given.counted && { counted: true }),
    ...(given.places && { places: true }),
  });
  const picks = given.picks ?? (await picksFor(septima, email, given.campaign ?? ""));
  await picks.ready(septima.db, given.readers ?? []);
  return bind(program, {
    audience,
    picks: picks.of,
  });
}

/** The message a contact would get; its unsubscribe link leads nowhere, so that a look cannot unsubscribe anyone. */
export async function messageFor(
  septima: Septima,
  email: Email,
  contact: Contact,
  given: Given = {},
): Promise<Message> {
  const bound = await boundEmail(septima, email, { readers: [contact.id], ...given });
  return personalise(bound, readerOf(contact, email.language, previewAddresses(septima.config.readers)));
}

/** The message a contact would get, and what a frame with it may do. */
export async function lookFor(
  septima: Septima,
  email: Email,
  contact: Contact,
  given: Given = {},
): Promise<{ message: Message; look: Framed }> {
  const shown = await withItemsNow(septima, email);
  const picks = await picksFor(septima, shown, given.campaign ?? "");
  const message = await messageFor(septima, shown, contact, { ...given, picks });
  return { message, look: framed(septima, shown, picks.items(contact), message.html) };
}

/** So long the same reader stands in for all, in milliseconds. */
const SAME_READER = 60_000;

/** A reader of whom much is known, for pictures. */
export async function someReader(septima: Septima): Promise<Contact> {
  const known = septima.cache.get("some reader") as { at: number; reader: Contact } | undefined;
  if (known && septima.now() - known.at < SAME_READER) return known.reader;
  const reader = await wellKnown(septima);
  septima.cache.set("some reader", { at: septima.now(), reader });
  return reader;
}

async function wellKnown(septima: Septima): Promise<Contact> {
  const [row] = await septima.db.query<{ id: number }>(
    `select id from contacts where status = 'subscribed' and fields ? 'first_name'
     order by (fields ? 'branch') desc, id limit 1`,
  );
  if (row) return contactById(septima, row.id);
  return NOBODY;
}

/** So many readers are counted before others have their turn. */
const STRETCH = 10_000;

function* stretches(all: Iterable<number>, size: number): Generator<number[]> {
  let stretch: number[] = [];
  for (const one of all) {
    stretch.push(one);
    if (stretch.length < size) continue;
    yield stretch;
    stretch = [];
  }
  yield stretch;
}

/** Counts the editions of a bound design across the selected readers; `got` is told who gets which. */
export async function countEditions(
  septima: Septima,
  bound: Bound,
  selection: Selection,
  got?: (reader: number, edition: EditionCount) => void,
): Promise<{ counted: EditionCount[]; readers: number }> {
  const { rules, fields, local } = editionQuestions(bound);
  const languages = local ? await languagesOf(septima) : [];
  const writes = (field: string): Ask => ({ kind: "writes", field });
  const speaks = (language: string): Ask => ({ kind: "speaks", language });
  const context = await audienceContext(septima);
  const answerable = rules.map((rule) => isAnswerable(rule, context));
  const { everyone, readers, meets, yes } = await selectedReaders(
    septima,
    selection,
    rules.filter((_, at) => answerable[at]),
    [...fields.flat().map(writes), ...languages.map(speaks)],
  );
  // What has a rule that cannot be answered any more is for nobody, as in each message.
  const meeting = rules.map((rule, at) => (answerable[at] ? meets(rule) : Bits.none(everyone.size)));
  const writing = fields.map((those) =>
    those.map((field) => yes(writes(field))).reduce((one, other) => one.or(other)),
  );
  const speaking = languages.map((language) => ({ language, who: yes(speaks(language)) }));
  const counter = editionCounter(bound, {
    meets: (rule, reader) => meeting[rule].has(reader),
    writes: (which, reader) => writing[which].has(reader),
    language: (reader) => speaking.find(({ who }) => who.has(reader))?.language ?? null,
  });
  for (const stretch of stretches(readers, STRETCH)) {
    counter.take(stretch, got);
    await new Promise((resolve) => setImmediate(resolve));
  }
  return { counted: counter.found(), readers: readers.count() };
}

/** The editions of a design, and how many readers they have in all. */
export interface Editions {
  editions: Edition[];
  readers: number;
}

/** So many designs are remembered with their editions. */
const KEPT = 12;

/**
 * The editions of a design across the selected readers, exactly, largest first. What was worked out is known until the
 * message, what is live in it, the day or the audience changes.
 * @throws RuleError when the selection names a segment that is missing or refers to itself
 */
export async function editionsOf(
  septima: Septima,
  email: Email,
  selection: Selection,
  campaignId?: string,
): Promise<Editions> {
  const bound = await boundEmail(septima, email, { campaign: campaignId });
  const audience = await audienceContext(septima);
  const asked = [...bound.asked, ...rulesOf(selection)];
  const known = await editionsKnown(septima, asksHistory(asked, audience));
  // The rules stand in it as they are written.
  const { rules: _, lists: __, ...written } = bound;
  const key = createHash("sha256")
    .update(serialize([written, selection, audience.today, audience.zone]))
    .digest("base64");
  const before = known.get(key);
  if (before) return before;
  const found = countedEditions(septima, bound, selection);
  known.set(key, found);
  found.catch(() => known.delete(key));
  for (const old of [...known.keys()].slice(0, -KEPT)) known.delete(old);
  return found;
}

/** The editions of a design as `editionsOf` finds them; none, and why, when a rule cannot be answered. */
export async function editionsOrWhy(
  ...asked: Parameters<typeof editionsOf>
): Promise<Editions & { trouble: string | null }> {
  try {
    return { ...(await editionsOf(...asked)), trouble: null };
  } catch (error) {
    if (error instanceof RuleError) return { editions: [], readers: 0, trouble: error.message };
    throw error;
  }
}

/** The editions that are known of this audience; of designs that ask for it, after all that it did until now. */
async function editionsKnown(septima: Septima, did: boolean): Promise<Map<string, Promise<Editions>>> {
  const key = did ? "editions by behaviour" : "editions";
  const state = [await audienceNow(septima), did && behaviourNow(septima)];
  const kept = septima.cache.get(key) as
    | { state: unknown[]; known: Map<string, Promise<Editions>> }
    | undefined;
  if (kept?.state.every((it, at) => it === state[at])) return kept.known;
  const known = new Map<string, Promise<Editions>>();
  septima.cache.set(key, { state, known });
  return known;
}

async function countedEditions(septima: Septima, bound: Bound, selection: Selection): Promise<Editions> {
  const { counted, readers } = await countEditions(septima, bound, selection);
  const samples = await contactsById(
    septima,
    counted.map(({ first }) => first),
  );
  return {
    // Somebody who was deleted meanwhile is nobody's sample.
    editions: joinSame(bound, counted, ({ first }) => samples.get(first)).flatMap(({ first, ...edition }) => {
      const sample = samples.get(first);
      return sample ? [{ ...edition, sample }] : [];
    }),
    readers,
  };
}

/** What a broken selection makes impossible is nothing; the findings say what is broken. */
export async function orNone<T>(work: Promise<T>): Promise<T | null> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof RuleError) return null;
    throw error;
  }
}

/** Which of the selected readers are shown a code, by the key of the batch; every batch that a tag names is there. */
export async function codeReaders(
  septima: Septima,
  bound: Bound,
  selection: Selection,
): Promise<Map<string, number[]>> {
  const shown = new Map(
    bound.slots
      .filter(({ field }) => isCode(field))
      .map(({ field }): [string, number[]] => [batchOf(field), []]),
  );
  if (shown.size === 0 || selection.include.length === 0) return shown;
  await countEditions(septima, bound, selection, (reader, { codes }) => {
    for (const batch of codes) shown.get(batch)?.push(reader);
  });
  return shown;
}

/**
 * Those a draft is composed for: its editions, how many they are, the first of them, and how many lack each field. None
 * when a rule among them cannot be answered.
 */
export async function whoReads(
  septima: Septima,
  email: Email,
  selection: Selection,
  fields: readonly { key: string }[],
  campaignId?: string,
): Promise<{
  editions: Edition[];
  /** Why they cannot be told. */
  trouble: string | null;
  size: number;
  first: Contact;
  lacking: Record<string, number>;
}> {
  const { editions, trouble } = await editionsOrWhy(septima, email, selection, campaignId);
  const lacks = (field: string): Ask => ({ kind: "lacks", field });
  const asked = fields.map(({ key }) => lacks(key));
  const answered = await orNone(selectedReaders(septima, selection, [], asked));
  if (!answered) return { editions, trouble, size: 0, first: NOBODY, lacking: {} };
  const { readers, yes } = answered;
  const first = await contactsById(septima, readers.count() > 0 ? [readers.first()] : []);
  return {
    editions,
    trouble,
    size: readers.count(),
    first: first.get(readers.first()) ?? NOBODY,
    lacking: Object.fromEntries(fields.map(({ key }) => [key, readers.and(yes(lacks(key))).count()])),
  };
}

/** How many readers and editions a draft has; worked out again when it or the audience has changed. */
export async function draftNumbers(
  septima: Septima,
  draft: { id: string; revision: number; readers: Selection },
): Promise<{ readers: number; editions: number } | null> {
  if (draft.readers.include.length === 0) return null;
  const audience = await audienceNow(septima);
  const state = `${draft.revision} ${JSON.stringify(draft.readers)}`;
  const key = `numbers ${draft.id}`;
  const known = septima.cache.get(key) as
    | { state: string; audience: unknown; numbers: { readers: number; editions: number } }
    | undefined;
  if (known?.state === state && known.audience === audience) return known.numbers;
  const { email } = await campaign(septima, draft.id);
  const found = await orNone(editionsOf(septima, email, draft.readers, draft.id));
  if (!found) return null;
  const numbers = { readers: found.readers, editions: found.editions.length };
  septima.cache.set(key, { state, audience, numbers });
  return numbers;
}

/**
 * A campaign's email as a reader gets it: the chosen contact, or the sample of the largest edition; and what a frame
 * with it may do.
 */
export async function campaignAs(
  septima: Septima,
  id: string,
  contactId?: number,
): Promise<{ message: Message; contact: Contact | null; look: Framed }> {
  const { email, readers } = await campaign(septima, id);
  const contact =
    contactId === undefined
      ? ((await orNone(editionsOf(septima, email, readers, id)))?.editions[0]?.sample ?? null)
      : await contactById(septima, contactId);
  const someone = contact ?? NOBODY;
  return { contact, ...(await lookFor(septima, email, someone, { campaign: id })) };
}

/**
 * A campaign's email as its small picture shows it, as one reader or most get it; the latter is made once for a
 * revision, a brand and a day, and kept with the data.
 */
export async function campaignPicture(septima: Septima, id: string, contactId?: number): Promise<Framed> {
  const picture = async () => (await campaignAs(septima, id, contactId)).look;
  if (contactId !== undefined) return picture();
  const [{ revision }, brand] = [await campaign(septima, id), await brandOf(septima)];
  const { version, origin } = septima.config;
  const key = [revision, version, origin, (await audienceContext(septima)).today, JSON.stringify(brand)].join(
    " ",
  );
  const [kept] = await septima.db.query<Framed>(
    "select html, policy from looks where campaign_id = $1 and key = $2",
    [id, key],
  );
  if (kept) return kept;
  const made = await picture();
  await septima.db.query(
    `insert into looks (campaign_id, key, html, policy) values ($1, $2, $3, $4)
     on conflict (campaign_id) do update set key = excluded.key, html = excluded.html, policy = excluded.policy`,
    [id, key, made.html, made.policy],
  );
  return made;
}

/** The address a design is sent from, or the brand's first where it differs from reader to reader. */
export function fixedSender({ address }: Pick<Email["envelope"]["sender"], "address">, brand: Brand): string {
  return hasTyped(address) ? brand.senders[0].address : address;
}

/**
 * What all messages of one sending share, a proof's and an export's as well as the real thing's.
 * @param of what complaints are told apart by
 */
export function sharedHeaders(
  { envelope: { sender } }: Email,
  brand: Brand,
  of: { campaign: string; sending: string },
): Headers {
  const from = fixedSender(sender, brand);
  return {
    from,
    listId: { name: brand.name, domain: `letters.${domainOf(from)}` },
    feedbackId: `${of.campaign}:${of.sending}:septima`,
  };
}
