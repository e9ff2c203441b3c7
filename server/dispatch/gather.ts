/** Readers and content of a sending, frozen when its moment has come; everything that was asked when it was booked is asked again. */
import { type AudienceContext, type Contact, RuleError } from "~/core/audience";
import { blocksOf, type Email } from "~/core/email";
import { type Bound, batchOf, editionCounter, editionQuestions, hasWords, isCode } from "~/core/personal";
import { hasDrifted } from "~/core/sending";
import { CONTACT_COLUMNS, wholeFrom } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { gatherRecipients } from "../audience/selection";
import { boundEmail, domainOf, fixedSender } from "../campaigns/rendering";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { CodesShort, reserveCodes } from "../sources/codes";
import { liveContent, refreshAll } from "../sources/sources";
import { brandOf } from "../workspace/settings";
import { type Frozen, moveDispatch } from "./dispatches";
import { findingsIn } from "./findings";

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
 * Writes one row per reader and freezes the live content, all or nothing. Whatever stands in the way pauses the dispatch
 * with a sentence that says what it is.
 */
export async function gather(septima: Septima, dispatch: Frozen): Promise<void> {
  try {
    await refreshAll(septima, sourcesOf(dispatch.email));
    const obstacles = (await findingsIn(septima, dispatch)).filter(({ weight }) => weight === "stops");
    if (obstacles.length > 0) {
      const words = `${obstacles.map(({ text }) => text).join(" ")} Nobody got anything yet.`;
      throw new Refusal(words);
    }
    await freeze(septima, dispatch);
  } catch (error) {
    // What was begun before an orderly stop begins anew after the next start.
    if (septima.stopping.aborted) throw error;
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

/** @throws Drifted, CodesShort, RuleError; then nothing was written */
async function freeze(septima: Septima, dispatch: Frozen): Promise<void> {
  const { id, campaignId, confirmed, tolerance } = dispatch;
  const content = await liveContent(septima);
  const context = await audienceContext(septima);
  const at = new Date(septima.now());
  const domain = domainOf(fixedSender(dispatch.email.envelope.sender, await brandOf(septima)));
  const bound = await boundEmail(septima, dispatch.email, { content, tags: dispatch.tags });
  await septima.db.transaction(async (tx) => {
    const total = await gatherRecipients(tx, { id, campaignId, domain, at }, dispatch.readers, context);
    if (hasDrifted(confirmed, total, tolerance)) throw new Drifted(confirmed, total);
    // In the same order everywhere, so that two dispatches do not wait for each other.
    const shown = await codesShown(tx, bound, context, id);
    for (const [batch, readers] of [...shown].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const { name, missing } = await reserveCodes(tx, { id, campaignId, at }, batch, readers);
      if (missing > 0 && mustHaveCode(bound, batch)) throw new CodesShort(name, missing);
    }
    await tx.query(
      "update dispatches set state = 'sending', total = $2, content = $3::jsonb where id = $1 and state = 'gathering'",
      [id, total, JSON.stringify(Object.fromEntries(content))],
    );
  });
}

/** So many recipients are looked at in one go. */
const STRETCH = 5000;

/**
 * Which recipients of a dispatch are shown a code, by the key of the batch; every batch that a tag names is there. Asked of
 * the rows just written, within their transaction, so that nobody who came in between goes without.
 */
async function codesShown(
  tx: Queries,
  bound: Bound,
  context: AudienceContext,
  dispatchId: string,
): Promise<Map<string, number[]>> {
  const shown = new Map<string, number[]>();
  for (const { field } of bound.slots) if (isCode(field)) shown.set(batchOf(field), []);
  if (shown.size === 0) return shown;
  const { fields } = editionQuestions(bound);
  let contacts = new Map<number, Contact>();
  const counter = editionCounter(bound, {
    meets: (rule, reader) => bound.rules[rule](contacts.get(reader)!),
    writes: (which, reader) => fields[which].some((field) => hasWords(field, contacts.get(reader)!)),
    language: (reader) => {
      const { language } = contacts.get(reader)!.fields;
      return typeof language === "string" ? language : null;
    },
  });
  for (let last = 0; ; ) {
    const rows = await tx.query<Contact>(
      `select ${CONTACT_COLUMNS} from recipients r join contacts c on c.id = r.contact_id
       where r.dispatch_id = $1 and r.contact_id > $2 order by r.contact_id limit ${STRETCH}`,
      [dispatchId, last],
    );
    if (rows.length === 0) return shown;
    contacts = new Map(
      (await wholeFrom(tx, rows, context, bound.asked)).map((contact) => [contact.id, contact]),
    );
    counter.take(contacts.keys(), (reader, { codes }) => {
      for (const batch of codes) shown.get(batch)?.push(reader);
    });
    last = rows.at(-1)!.id;
  }
}

/** Whether readers would get nothing where a code is missing. */
function mustHaveCode({ slots }: Bound, batch: string): boolean {
  const own = slots.filter(({ field }) => isCode(field) && batchOf(field) === batch);
  // An address that words stand beside may do without.
  const words = own.filter(({ sink }) => sink !== "component");
  return (words.length > 0 ? words : own).some(({ fallback }) => fallback.trim() === "");
}

/** The sources that a design shows. */
function sourcesOf(email: Email): string[] {
  const ids = blocksOf(email).map((block) => block.source);
  return [...new Set(ids.filter((id): id is string => typeof id === "string" && id !== ""))];
}
