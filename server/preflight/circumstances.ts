/** What checks are told of a campaign, or of what was booked of it: whom it goes to, and what there is for them. */
import { Bits, isAnswerable, namesGoneList, RuleError } from "~/core/audience";
import { blockTitle, listAsks, placedIn } from "~/core/blocks";
import { blocksOf, type Email, resolveTheme, type TagFacts } from "~/core/email";
import { signingDomain } from "~/core/mime";
import {
  asksAbout,
  type Circumstances,
  codesShort,
  fewerWords,
  type Recipients,
  recipients,
} from "~/core/preflight";
import { versionsOf } from "~/core/translation";
import type { Ask } from "../audience/answers";
import { readerFields } from "../audience/fields";
import { audienceContext } from "../audience/groups";
import { rulesOf, type Selection, selectedReaders } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { boundEmail, codeReaders, fixedSender } from "../campaigns/rendering";
import { tagFacts } from "../campaigns/tag-facts";
import { gotCounts } from "../dispatch/repeating";
import { mailGoes } from "../mail/chosen-relay";
import { currentTurn, signedDomains, signersOf } from "../mail/signing-keys";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { codeFacts, codesWanted } from "../sources/codes";
import { type PickNumbers, pickNumbers } from "../sources/picks";
import { itemsLinked, itemsPlaced } from "../sources/placed";
import { sources } from "../sources/sources";
import { brandOf } from "../workspace/settings";
import { allThemes } from "../workspace/themes";
import { spellingOf } from "./spelling";

/** A design with whom it goes to: a campaign's as it is now, or as it was frozen for a sending. */
export interface Sendable {
  campaignId: string;
  email: Email;
  readers: Selection;
  tags: TagFacts;
  /** Whether it goes again and again: then nobody has it already. */
  repeats?: boolean;
}

export async function sendable(septima: Septima, campaignId: string): Promise<Sendable> {
  const { email, readers } = await campaign(septima, campaignId);
  const repeats = (await gotCounts(septima, campaignId)) === null;
  return { campaignId, email, readers, repeats, tags: await tagFacts(septima, campaignId) };
}

/**
 * What is known of a campaign, or of what was booked of it.
 * @throws RuleError when who gets it cannot be worked out
 */
export async function circumstancesOf(septima: Septima, it: Sendable): Promise<Circumstances> {
  const { campaignId, email, readers } = it;
  // Codes are handed out of what is there now, and links lead where their items are.
  const tags = { ...it.tags, codes: await codeFacts(septima), items: await itemsLinked(septima, email) };
  const there = await sources(septima);
  const those = await recipientsOf(septima, { ...it, tags });
  return {
    readers: those,
    codes: await codesFor(septima, { ...it, tags }),
    // Of nobody it is not said that they get nothing.
    lists: readers.include.length === 0 ? [] : await listNumbers(septima, { campaignId, email, readers }),
    tags,
    today: (await audienceContext(septima)).today,
    brand: await brandOf(septima),
    spelling: await spellingOf(
      septima,
      versionsOf(email).map((version) => version.email.language),
    ),
    catalogue: await itemsPlaced(septima, email),
    theme: resolveTheme(email.theme, await allThemes(septima)),
    there: {
      fields: new Set((await readerFields(septima)).map(({ key }) => key)),
      sources: new Set(there.map(({ id }) => id)),
    },
    failing: there.flatMap(({ id, name, failure, refreshedAt, stopsAfter }) =>
      failure === null
        ? []
        : [
            {
              id,
              name,
              why: failure,
              age: refreshedAt === null ? null : septima.now() - Date.parse(refreshedAt),
              stopsAfter,
            },
          ],
    ),
    ...(await signingOf(septima, email)),
    reached: { origin: septima.config.readers, from: await mailGoes(septima) },
    ...(await pastOf(septima, it, those.count)),
  };
}

/** So many sendings of a series say how many readers it usually has. */
const USUAL = 6;
/** So many days after one message the next is not too soon. */
const DAYS = 3;

/** How many readers the series usually has, and which campaign went to the same readers these days. */
async function pastOf(
  septima: Septima,
  { campaignId, repeats, readers: selection }: Sendable,
  count: number,
): Promise<Pick<Circumstances, "usual" | "recent">> {
  if (count === 0) return {};
  const before = await septima.db.query<{ series: string; total: number }>(
    `select c.series, d.total from dispatches d join campaigns c on c.id = d.campaign_id
     where d.state = 'sent' and c.series <> '' and c.series = (select series from campaigns where id = $1)
     order by d.finished_at desc limit $2`,
    [campaignId, USUAL],
  );
  const totals = before.map(({ total }) => total).sort((one, other) => one - other);
  const middle = totals[Math.floor(totals.length / 2)];
  const usual = before[0] ? { series: before[0].series, times: totals.length, readers: middle } : null;
  if (repeats) return { usual };
  const lately = await septima.db.query<{ name: string; contacts: number[] }>(
    `select c.name, array_agg(r.contact_id) as contacts
     from dispatches d join campaigns c on c.id = d.campaign_id join recipients r on r.dispatch_id = d.id
     where d.campaign_id <> $1 and r.state = 'accepted' and d.finished_at > $2 group by c.id, c.name`,
    [campaignId, new Date(septima.now() - DAYS * 86_400_000)],
  );
  if (lately.length === 0) return { usual };
  const { readers } = await selectedReaders(septima, selection, []);
  const [most] = lately
    .map(({ name, contacts }) => ({ name, readers: contacts.filter((id) => readers.has(id)).length }))
    .sort((one, other) => other.readers - one.readers);
  const recent = { ...most, days: DAYS, of: readers.count() };
  return { usual, recent };
}

/**
 * The domain a design comes from, if nothing signs for it, or why what does cannot. Where it differs from reader to reader it is
 * asked of each at last.
 */
async function signingOf(
  septima: Septima,
  { envelope: { sender } }: Email,
): Promise<{ unsigned: string[]; sealed: string | null }> {
  const domain = signingDomain(fixedSender(sender, await brandOf(septima)));
  if (domain === "") return { unsigned: [], sealed: null };
  if (!(await signedDomains(septima)).has(domain)) return { unsigned: [domain], sealed: null };
  try {
    await signersOf(septima, domain, await currentTurn(septima));
    return { unsigned: [], sealed: null };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { unsigned: [], sealed: error.message };
  }
}

/** A list by rule that is filled for each reader: it makes no edition. */
export interface FilledPerReader {
  block: string;
  name: string;
  asked: number;
  /** How many get less than that; null where nobody does. */
  said: string | null;
}

/** The lists by rule of a campaign, with how many readers get less than they are asked for. */
export async function filledPerReader(septima: Septima, campaignId: string): Promise<FilledPerReader[]> {
  const { email, readers } = await campaign(septima, campaignId);
  const numbers = await listNumbers(septima, { campaignId, email, readers });
  return numbers.flatMap((one) => {
    const node = blocksOf(email).find(({ id }) => id === one.block);
    return node
      ? [{ block: one.block, name: blockTitle(node), asked: one.asked, said: fewerWords(one) }]
      : [];
  });
}

/** Of which batches a campaign has too few codes for its readers now, each in a sentence that says what those get. */
export async function codesMissing(septima: Septima, campaignId: string): Promise<string[]> {
  const it = await sendable(septima, campaignId);
  const codes = await codesFor(septima, it);
  const short = codes.filter(({ wanted, free }) => wanted > free).map((batch) => ({ ...batch, ends: null }));
  return codesShort(it.email, { codes: short }).map(({ text }) => text);
}

/** How many readers the lists by rule of a design give less than they are asked for; of everybody where nobody is chosen. */
export async function listNumbers(
  septima: Septima,
  { campaignId, email, readers }: Pick<Sendable, "campaignId" | "email" | "readers">,
): Promise<PickNumbers[]> {
  const lists = { asks: listAsks(email), placed: placedIn(email), campaign: campaignId };
  return pickNumbers(septima, lists, readers);
}

/** The batches whose codes would be shown now, with how many are wanted; none where a rule cannot be answered. */
async function codesFor(septima: Septima, it: Sendable) {
  const { campaignId, email, readers: selection, tags } = it;
  try {
    const bound = await boundEmail(septima, email, { tags });
    const got = await alreadySent(septima, it);
    const shown = [...(await codeReaders(septima, bound, selection))].map(([batch, readers]) => [
      batch,
      readers.filter((reader) => !got.has(reader)),
    ]) as [string, number[]][];
    return codesWanted(septima, campaignId, new Map(shown));
  } catch (error) {
    if (error instanceof RuleError) return [];
    throw error;
  }
}

/** Those a campaign would go to now: chosen, and without it so far. */
async function recipientsOf(septima: Septima, it: Sendable): Promise<Recipients> {
  const { email, readers: selection, tags } = it;
  if (selection.include.length === 0) return recipients([], await audienceContext(septima));
  const { fields, rules } = asksAbout(email, tags);
  const context = await audienceContext(septima);
  const lacks = (field: string): Ask => ({ kind: "lacks", field });
  const answered = await selectedReaders(
    septima,
    selection,
    rules.filter((rule) => isAnswerable(rule, context)),
    fields.map(lacks),
  );
  const { everyone } = answered;
  const got = Bits.none(everyone.size);
  for (const id of await alreadySent(septima, it)) if (id < got.size) got.add(id);
  const chosenByGone = rulesOf(selection).some((rule) => namesGoneList(rule, context));
  const among = (readers: Bits): Recipients => ({
    count: readers.count(),
    lacking: (those) => those.reduce((left, field) => left.and(answered.yes(lacks(field))), readers).count(),
    anybody: (rule) => readers.and(answered.meets(rule)).first() >= 0,
    namesGone: (rule) => namesGoneList(rule, context),
    chosenByGone,
    those: (rule) => among(readers.and(answered.meets(rule))),
  });
  return among(answered.readers.without(got));
}

/** The contacts who have a campaign already, or may have it: nobody gets it twice. */
async function alreadySent(
  septima: Septima,
  { campaignId, repeats }: Pick<Sendable, "campaignId" | "repeats">,
): Promise<ReadonlySet<number>> {
  if (repeats) return new Set();
  const rows = await septima.db.query<{ contact_id: number }>(
    `select distinct r.contact_id from recipients r join dispatches d on d.id = r.dispatch_id
     where d.campaign_id = $1 and r.state in ('accepted', 'unconfirmed', 'handing')`,
    [campaignId],
  );
  return new Set(rows.map((row) => row.contact_id));
}
