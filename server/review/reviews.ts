/** Reviews: somebody is asked to look a campaign over, by a signed link that runs out, and approves it or asks for changes. */
import { isAddress } from "~/core/audience";
import { parseEmail } from "~/core/blocks";
import { type Comparison, compareEmails } from "~/core/compose";
import { campaign } from "../campaigns/campaigns";
import { sendNote } from "../mail/note";
import { RelayError } from "../mail/relay";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { readToken, reviewAddress } from "../tokens";

export type Verdict = "approved" | "changes";

/** How a review stands: what was said last, or why nothing can be said. */
export type ReviewState = "waiting" | Verdict | "expired" | "withdrawn";

/** A review as colleagues see it. */
export interface Review {
  id: string;
  reviewer: string;
  /** Where the link was sent; null where it was not. */
  address: string | null;
  note: string;
  askedAt: string;
  expiresAt: string;
  /** When the link was followed first. */
  openedAt: string | null;
  state: ReviewState;
  /** What was written with the last verdict, and when. */
  said: string;
  saidAt: string | null;
  /** Whether the design is another than the one that was spoken of. */
  changed: boolean;
  /** The address that shows it to the reviewer. */
  link: string;
}

interface Row {
  id: string;
  campaign_id: string;
  reviewer: string;
  address: string | null;
  note: string;
  asked_at: Date;
  expires_at: Date;
  withdrawn_at: Date | null;
  opened_at: Date | null;
  verdict: Verdict | null;
  said: string;
  said_at: Date | null;
  changed: boolean;
}

const COLUMNS = `r.id, r.campaign_id, r.reviewer, r.address, r.note, r.asked_at, r.expires_at, r.withdrawn_at, r.opened_at,
  r.verdict, r.said, r.said_at, r.design is not null and r.design is distinct from c.email as changed`;
const FROM = "from reviews r join campaigns c on c.id = r.campaign_id and c.deleted_at is null";

/** What a reviewer said holds after their link has run out. */
const stateOf = ({ withdrawn_at, verdict, expires_at }: Row, now: number): ReviewState =>
  withdrawn_at ? "withdrawn" : (verdict ?? (expires_at.getTime() <= now ? "expired" : "waiting"));

async function shown(septima: Septima, row: Row): Promise<Review> {
  return {
    id: row.id,
    reviewer: row.reviewer,
    address: row.address,
    note: row.note,
    askedAt: row.asked_at.toISOString(),
    expiresAt: row.expires_at.toISOString(),
    openedAt: row.opened_at?.toISOString() ?? null,
    state: stateOf(row, septima.now()),
    said: row.said,
    saidAt: row.said_at?.toISOString() ?? null,
    changed: row.changed,
    link: await reviewAddress(septima, row.id),
  };
}

/** The reviews of a campaign, asked for last first. */
export async function reviewsOf(septima: Septima, campaignId: string): Promise<Review[]> {
  const rows = await septima.db.query<Row>(
    `select ${COLUMNS} ${FROM} where r.campaign_id = $1 order by r.asked_at desc, r.id`,
    [campaignId],
  );
  return Promise.all(rows.map((row) => shown(septima, row)));
}

/** So many days a link holds at most, so many are asked at once, and so many reviews a campaign has. */
export const MOST_DAYS = 60;
const AT_ONCE = 20;
const MOST = 200;
const DAY = 86_400_000;

interface Asked {
  reviewer: string;
  address: string | null;
}

/**
 * Who is named in some words, parted by commas or lines: addresses, `Name <address>`, or names alone.
 * @throws Refusal naming what only looks like an address
 */
function reviewersIn(text: string): Asked[] {
  const asked = new Map<string, Asked>();
  for (const piece of text.split(/[,;\n\r]+/).map((one) => one.trim())) {
    if (piece === "") continue;
    const [, name = "", inside] = /^(.*?)<([^<>]*)>$/.exec(piece) ?? [];
    const address = (inside ?? (piece.includes("@") ? piece : "")).trim();
    if ((address !== "" || inside !== undefined) && !isAddress(address))
      throw new Refusal(`“${piece}” is not an address. Mend it, or write a name alone; nobody was asked.`);
    const reviewer = name.replaceAll('"', "").trim() || address || piece;
    asked.set((address || reviewer).toLowerCase(), {
      reviewer: reviewer.slice(0, 80),
      address: address || null,
    });
  }
  if (asked.size === 0) throw new Refusal("Say who is asked: addresses, or names for links of their own.");
  if (asked.size > AT_ONCE)
    throw new Refusal(`At most ${AT_ONCE} are asked at once, these are ${asked.size}.`);
  return [...asked.values()];
}

const untilOf = (septima: Septima, days: number) =>
  new Date(septima.now() + Math.min(MOST_DAYS, Math.max(1, Math.round(days))) * DAY);

/**
 * Asks for reviews: each who is named has a link of their own, and whoever has an address is sent it.
 * @param days how long the links hold
 * @returns who was asked
 * @throws Refusal for what is no address, or when the relay does not take a mail: those it took before are asked
 */
export async function askReviews(
  septima: Septima,
  campaignId: string,
  { who, note, days }: { who: string; note: string; days: number },
): Promise<string[]> {
  const asked = reviewersIn(who);
  await campaign(septima, campaignId);
  const [{ many }] = await septima.db.query<{ many: number }>(
    "select count(*)::int as many from reviews where campaign_id = $1",
    [campaignId],
  );
  if (many + asked.length > MOST)
    throw new Refusal(`A campaign has at most ${MOST} reviews. Withdraw none: ask one of them again.`);
  for (const { reviewer, address } of asked) {
    const id = septima.newId();
    await septima.db.query(
      `insert into reviews (id, campaign_id, reviewer, address, note, asked_at, expires_at)
       values ($1, $2, $3, $4, $5, $6, $7)`,
      [id, campaignId, reviewer, address, note.trim(), new Date(septima.now()), untilOf(septima, days)],
    );
    await sendLink(septima, campaignId, id).catch(async (error) => {
      await septima.db.query("delete from reviews where id = $1", [id]);
      throw error;
    });
  }
  return asked.map(({ reviewer }) => reviewer);
}

/**
 * Asks a reviewer again, after changes or when the link has run out or was withdrawn; what they were last shown is known,
 * so that they are told what has changed since.
 */
export async function askAgain(
  septima: Septima,
  campaignId: string,
  { id, note, days }: { id: string; note: string; days: number },
): Promise<void> {
  const rows = await septima.db.query(
    `update reviews set asked_at = $3, expires_at = $4, withdrawn_at = null, verdict = null, note = $5
     where campaign_id = $1 and id = $2 returning id`,
    [campaignId, id, new Date(septima.now()), untilOf(septima, days), note.trim()],
  );
  if (rows.length === 0) throw new Refusal("This review is not there any more.", 404);
  await sendLink(septima, campaignId, id);
}

/** Takes a link back: it shows nothing any more. What was said by it stays. */
export async function withdrawReview(septima: Septima, campaignId: string, id: string): Promise<void> {
  await septima.db.query("update reviews set withdrawn_at = $3 where campaign_id = $1 and id = $2", [
    campaignId,
    id,
    new Date(septima.now()),
  ]);
}

const dayWords = (at: Date) =>
  at.toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" });

/** Sends a reviewer their link, where they have an address. @throws Refusal when the relay does not take it */
async function sendLink(septima: Septima, campaignId: string, id: string): Promise<void> {
  const { name } = await campaign(septima, campaignId);
  const [{ address, note, reviewer, expires_at }] = await septima.db.query<Row>(
    `select ${COLUMNS} ${FROM} where r.id = $1`,
    [id],
  );
  if (address === null) return;
  try {
    await sendNote(septima, {
      to: address,
      list: "reviews",
      language: "en",
      // Another mail each time somebody is asked.
      id: `review.${id}.${septima.now()}`,
      subject: `Please look over “${name}”`,
      lines: [
        reviewer === address ? "Hello," : `Hello ${reviewer},`,
        `You are asked to look over the email “${name}” before it is sent.`,
        ...(note === "" ? [] : [note]),
        `Every edition is there, on every device. Say what you think where it stands, and approve it or ask for changes. The link is yours alone, needs no sign-in, and holds until ${dayWords(expires_at)}.`,
      ],
      button: { words: "Look it over", href: await reviewAddress(septima, id) },
    });
  } catch (error) {
    if (!(error instanceof RelayError)) throw error;
    throw new Refusal(`${reviewer} could not be sent the link: ${error.message}`);
  }
}

/** The review that a link is of, as its reviewer sees it. */
export interface OwnReview extends Review {
  campaign: string;
}

/**
 * The review of a link that holds.
 * @param opened whether it is looked at with this, which is kept the first time
 * @throws Refusal (404) when the link was tampered with, has run out or was withdrawn, or the campaign is gone
 */
export async function reviewBy(septima: Septima, token: string, opened = false): Promise<OwnReview> {
  const { campaign: id } = await readToken(septima, "review", token);
  const [row] = await septima.db.query<Row>(`select ${COLUMNS} ${FROM} where r.id = $1`, [id]);
  if (!row || row.withdrawn_at)
    throw new Refusal("This review was taken back. Ask whoever sent you the link.", 404);
  if (row.expires_at.getTime() <= septima.now())
    throw new Refusal(
      `This link held until ${dayWords(row.expires_at)}. Ask whoever sent it for a new one.`,
      404,
    );
  if (opened && !row.opened_at)
    await septima.db.query("update reviews set opened_at = $2 where id = $1", [id, new Date(septima.now())]);
  return { ...(await shown(septima, row)), campaign: row.campaign_id };
}

/**
 * Approves the design as it is now, or asks for changes.
 * @param revision that of the design the reviewer looked at
 * @throws Refusal (409) when it has changed since they looked
 */
export async function giveVerdict(
  septima: Septima,
  token: string,
  { verdict, words, revision }: { verdict: Verdict; words: string; revision: number },
): Promise<void> {
  const review = await reviewBy(septima, token);
  if (verdict === "changes" && words.trim() === "")
    throw new Refusal("Say what is to change, here or in comments where it stands.");
  const rows = await septima.db.query(
    `update reviews r set verdict = $2, said = $3, said_at = $4, design = c.email
     from campaigns c where c.id = r.campaign_id and r.id = $1 and c.revision = $5 returning r.id`,
    [review.id, verdict, words.trim().slice(0, 4000), new Date(septima.now()), revision],
  );
  if (rows.length === 0)
    throw new Refusal("The email has changed while you looked at it. Look at it as it is now.", 409);
}

/** What has changed since a reviewer spoke; null where they have not, or nothing has. */
export async function changedSince(septima: Septima, reviewId: string): Promise<Comparison | null> {
  const [row] = await septima.db.query<{ campaign_id: string; design: unknown }>(
    `select r.campaign_id, r.design ${FROM} where r.id = $1 and r.design is not null and r.design is distinct from c.email`,
    [reviewId],
  );
  if (!row) return null;
  const { email } = await campaign(septima, row.campaign_id);
  return compareEmails(parseEmail(row.design), email);
}

/** Who waits for whom with a campaign: names of reviewers by what was said, and how many talks are open. */
export interface Waiting {
  waiting: string[];
  changes: string[];
  approved: string[];
  /** Those who approved what the design is not any more. */
  outdated: string[];
  open: number;
}

/** The same for all campaigns that are reviewed, by their ids. */
export async function allWaiting(septima: Septima): Promise<Map<string, Waiting>> {
  const rows = await septima.db.query<Row>(`select ${COLUMNS} ${FROM} order by r.asked_at, r.id`);
  const talks = await septima.db.query<{ campaign_id: string; open: number }>(
    `select campaign_id, count(*)::int as open from comments
     where answers is null and resolved_at is null group by campaign_id`,
  );
  const all = new Map<string, Waiting>();
  const of = (id: string) => {
    const one = all.get(id) ?? { waiting: [], changes: [], approved: [], outdated: [], open: 0 };
    all.set(id, one);
    return one;
  };
  for (const row of rows) {
    const state = stateOf(row, septima.now());
    if (state === "waiting" || state === "changes") of(row.campaign_id)[state].push(row.reviewer);
    if (state === "approved") of(row.campaign_id)[row.changed ? "outdated" : "approved"].push(row.reviewer);
  }
  for (const { campaign_id, open } of talks) of(campaign_id).open = open;
  return all;
}
