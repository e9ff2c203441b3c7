/** Saving a design: windows send steps on the revision they know, and learn what others did. */
import { parseEmail, rereadEmail } from "~/core/blocks";
import { changeEmail, commands, mentionsIn, searchWords } from "~/core/compose";
import { blocksOf, type Email, same, walk } from "~/core/email";
import {
  bothReordered,
  type Clash,
  difference,
  fingerprint,
  invert,
  type Packed,
  pack,
  rebase,
  type Step,
  StrayStep,
  unpack,
} from "~/core/steps";
import type { Selection } from "../audience/selection";
import type { Queries } from "../db/database";
import { keepMentions } from "../mentions";
import { TELL_OF } from "../news";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { readDesigns, rememberDesign } from "./designs";
import { BOOKED, type Booked, type Lock, lockFrom, lockWords } from "./lock";
import { keepAutomatically } from "./versions";

/** What a window sends. */
export interface SaveRequest {
  /** The revision the steps were made on. */
  revision: number;
  /** Chosen by the window, the same when it asks again because no answer came. */
  save: string;
  steps: readonly Packed[];
}

/** What became of a save. */
export type SaveAnswer =
  | {
      state: "saved";
      revision: number;
      at: string;
      /** Steps from what the window sent to what is saved now: what others did, and what of the window's own was left. */
      theirs: Packed[];
      clashes: Clash[];
      /** Whether the window and somebody else put the same parts in another order. */
      reordered: boolean;
      /** Of what is saved now. */
      fingerprint: string;
    }
  /** The revision is not known any more, or the steps do not fit it: here is all of what is saved. Nothing was written. */
  | { state: "behind"; revision: number; at: string; email: Email }
  /** Nothing was written, and asking again will not help. */
  | { state: "refused"; why: string; locked: boolean };

/** So many saves of each design are kept to be gone back through. */
const KEPT = 1000;

interface Saved {
  email: Email;
  revision: number;
  at: string;
}

/** A design, and what else has to be known before it is replaced. */
interface Newest extends Saved {
  /** When a version of it was last kept. */
  versionAt: Date | null;
  /** What holds it as it is. */
  lock: Lock | null;
  /** What a save that is asked for again was answered; null for one that is new. */
  answered: Clash[] | null;
}

/**
 * The newest design.
 * @param held whether nobody else may change it until the transaction ends
 * @throws Refusal (404)
 */
async function newest(
  septima: Septima,
  on: Queries,
  id: string,
  { held = false, save = "" } = {},
): Promise<Newest> {
  // By itself: what is asked next is answered as it is once nobody else holds it.
  if (held) await on.query("select from campaigns where id = $1 for update", [id]);
  const known = readDesigns(septima).get(id);
  const [row] = await on.query<{
    email: unknown;
    revision: number;
    updated_at: Date;
    version_at: Date | null;
    booked: Booked | null;
    answered: Clash[] | null;
  }>(
    `select case when revision = $2 then null else email end as email, revision, updated_at,
       (select max(kept_at) from versions v where v.campaign_id = c.id) as version_at, ${BOOKED} as booked,
       (select clashes from saves s where s.id = $3) as answered
     from campaigns c where id = $1 and deleted_at is null`,
    [id, known?.revision ?? -1, save],
  );
  if (!row) throw new Refusal("This campaign does not exist, or was deleted.", 404);
  const { revision, answered } = row;
  const email = known?.revision === revision ? known.email : parseEmail(row.email);
  rememberDesign(septima, id, { email, revision });
  const [at, lock] = [row.updated_at.toISOString(), lockFrom(row.booked)];
  return { email, revision, at, versionAt: row.version_at, lock, answered };
}

/** The whole design as it is saved. */
export function savedDesign(septima: Septima, campaignId: string): Promise<Saved> {
  return newest(septima, septima.db, campaignId);
}

/** The design as it was at an earlier revision; null when the way back there is not known any more. */
async function designAt(
  tx: Queries,
  campaignId: string,
  now: Saved,
  revision: number,
): Promise<Email | null> {
  if (revision === now.revision) return now.email;
  if (revision > now.revision) return null;
  const rows = await tx.query<{ revision: number; back: Packed[] }>(
    "select revision, back from saves where campaign_id = $1 and revision > $2 order by revision desc",
    [campaignId, revision],
  );
  if (rows.length !== now.revision - revision) return null;
  try {
    return rows.reduce((email, { back }) => unpack(email, back).email, now.email);
  } catch (error) {
    // The program that wrote them had another schema.
    if (error instanceof StrayStep) return null;
    throw error;
  }
}

/** The steps with what they were made on; null when they do not fit it. */
function unpacked(base: Email | null, packed: readonly Packed[]) {
  if (!base) return null;
  try {
    return unpack(base, packed);
  } catch (error) {
    if (error instanceof StrayStep) return null;
    throw error;
  }
}

/** A design that cannot be kept as it is, with a sentence that says why. */
class Unsound extends Error {}

/**
 * A design as it will be read again: what does not belong in it is left out.
 * @param now what it was made of: parts of it that are still the same were looked at before
 * @throws Unsound
 */
function sound(email: Email, now: Email): Email {
  const ids = [...walk(email)].map(({ node }) => node.id);
  if (new Set(ids).size !== ids.length) throw new Unsound("Two parts of the design have the same id.");
  const read = rereadEmail(email, now);
  const unreadable = (it: Email) =>
    blocksOf(it).flatMap((block) => (block.type === "unreadable" ? [block] : []));
  const known = new Set(unreadable(email).map(({ id }) => id));
  const [fresh] = unreadable(read).filter(({ id }) => !known.has(id));
  if (fresh) throw new Unsound(`A block cannot be kept as it is: ${fresh.why} Undo the last change to it.`);
  return read;
}

/**
 * Saves steps. On the newest revision they are done as they are; on an older one they are rebased over what others did
 * meanwhile, and what contradicts that is left out and reported. The same request again gives the same result.
 */
export async function saveSteps(
  septima: Septima,
  campaignId: string,
  request: SaveRequest,
): Promise<SaveAnswer> {
  let kept: Saved | undefined;
  const answered = await septima.db.transaction(async (tx): Promise<SaveAnswer> => {
    const now = await newest(septima, tx, campaignId, { held: true, save: request.save });
    const base = await designAt(tx, campaignId, now, request.revision);
    const sent = unpacked(base, request.steps);
    if (!sent) return { state: "behind", revision: now.revision, at: now.at, email: now.email };
    const answer = (saved: Saved, clashes: Clash[]): SaveAnswer => ({
      state: "saved",
      revision: saved.revision,
      at: saved.at,
      theirs: pack(difference(sent.email, saved.email)),
      clashes,
      reordered: base !== null && bothReordered(sent.steps, difference(base, now.email)).length > 0,
      fingerprint: fingerprint(saved.email),
    });
    if (now.answered || sent.steps.length === 0) return answer(now, now.answered ?? []);
    if (now.lock) return { state: "refused", why: lockWords(now.lock), locked: true };
    // On the newest revision there is nothing to carry the steps over.
    const { email: merged, clashes } =
      base === now.email ? { email: sent.email, clashes: [] } : rebase(now.email, sent.steps);
    const { email: whole } = changeEmail(merged, commands.ensureFooter(septima.newId));
    try {
      let email = sound(sent.email, now.email);
      if (difference(sent.email, whole).length > 0) email = sound(whole, now.email);
      const asSent = email === sent.email;
      const back = asSent && base === now.email ? invert(sent.steps) : difference(email, now.email);
      if (back.length === 0) return answer(now, clashes);
      const save = { id: request.save, back, clashes };
      kept = await keepDesign(septima, tx, campaignId, now, email, save);
      return answer(kept, clashes);
    } catch (error) {
      if (error instanceof Unsound) return { state: "refused", why: error.message, locked: false };
      throw error;
    }
  });
  // Now that nothing can take it back: it need not be read again.
  if (kept) rememberDesign(septima, campaignId, kept);
  return answered;
}

/** Signs that the database takes for none: NUL, and halves of pairs, as JSON writes them. */
const UNSTORABLE = /\\u0000|\\ud[89a-f][0-9a-f]{2}/i;

/**
 * Writes a design as its next revision, with the way back.
 * @throws Unsound
 */
async function keepDesign(
  septima: Septima,
  tx: Queries,
  campaignId: string,
  now: Newest,
  email: Email,
  save: { id: string; back: Step[]; clashes: Clash[] },
): Promise<Saved> {
  const text = JSON.stringify(email);
  if (UNSTORABLE.test(text))
    throw new Unsound(
      "Some words hold a sign that cannot be stored. Undo the last change and write them again.",
    );
  const at = new Date(septima.now());
  const revision = now.revision + 1;
  await keepAutomatically(septima, tx, campaignId, now.versionAt);
  if (!same(mentionsIn(email), mentionsIn(now.email))) await keepMentions(tx, "design", campaignId, email);
  // All in one question: each takes as long as what it asks for.
  await tx.query(
    `with design as (update campaigns set email = $2::jsonb, revision = $3, updated_at = $4, words = $5, subject = $6::jsonb
       where id = $1),
     old as (delete from saves where campaign_id = $1 and revision <= $10)
     insert into saves (id, campaign_id, revision, back, clashes, saved_at)
     values ($7, $1, $3, $8::jsonb, $9::jsonb, $4) returning ${TELL_OF}`,
    [
      campaignId,
      text,
      revision,
      at,
      searchWords(email),
      JSON.stringify(email.envelope.subject),
      save.id,
      JSON.stringify(pack(save.back)),
      JSON.stringify(save.clashes),
      revision - KEPT,
    ],
  );
  return { email, revision, at: at.toISOString() };
}

/**
 * Changes a design that may be open in windows, as one of them would; they learn of it as they do of each other. One
 * that is scheduled is changed too, what goes out with it included; one that was sent, or is on its way, is not.
 * @returns whether it was changed
 */
export async function changeDesign(
  septima: Septima,
  campaignId: string,
  change: (email: Email) => Email,
): Promise<boolean> {
  return septima.db.transaction(async (tx) => {
    const now = await newest(septima, tx, campaignId, { held: true });
    const { lock } = now;
    if (lock && lock.state !== "scheduled") return false;
    const email = change(now.email);
    const back = difference(email, now.email);
    if (back.length === 0) return false;
    if (lock) {
      const [dispatch] = await tx.query<{ email: unknown; readers: Selection }>(
        "select email, readers from dispatches where id = $1 and state = 'scheduled' for update",
        [lock.dispatch],
      );
      // It has begun to go out since.
      if (!dispatch) return false;
      const booked = change(parseEmail(dispatch.email));
      await tx.query("update dispatches set email = $2::jsonb where id = $1", [
        lock.dispatch,
        JSON.stringify(booked),
      ]);
      await keepMentions(tx, "dispatch", lock.dispatch, { email: booked, readers: dispatch.readers });
    }
    await keepDesign(septima, tx, campaignId, now, email, { id: septima.newId(), back, clashes: [] });
    return true;
  });
}
