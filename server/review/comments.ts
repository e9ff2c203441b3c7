/** What reviewers and colleagues say of a design: talks, each about a place in it or about the whole. */
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/**
 * Words in a block, as they read where they were marked (W3C Web Annotation Data Model, 4.2.4): `exact`, and a little of what
 * stands before, by which one of several that read the same is told.
 */
export interface Quote {
  exact: string;
  before: string;
}

/** What a talk is about: a block by its id, or the email as a whole; words in it, or all of it. */
export interface Place {
  block: string | null;
  quote: Quote | null;
}

/** Somebody who says something: by the link of a review, or as a colleague, who has none. */
export interface Author {
  name: string;
  review: string | null;
}

interface Said {
  id: string;
  author: string;
  /** By whose link; null for a colleague. */
  review: string | null;
  words: string;
  at: string;
}

/** A talk: how it began, and what was answered, in the order it was said. */
export interface Talk extends Place {
  id: string;
  /** Whose message was looked at. */
  reader: number | null;
  resolved: { by: string; at: string } | null;
  said: Said[];
}

/** So many comments a campaign has at most, and each so many signs. */
const MOST = 2000;
const LONGEST = 4000;

/** All talks of a campaign, the one that began first first. */
export async function talksOf(septima: Septima, campaignId: string): Promise<Talk[]> {
  const rows = await septima.db.query<{
    id: string;
    answers: string | null;
    review_id: string | null;
    author: string;
    words: string;
    at: Date;
    block: string | null;
    quote: Quote | null;
    reader: number | null;
    resolved_at: Date | null;
    resolved_by: string | null;
  }>(
    `select id, answers, review_id, author, words, at, block, quote, reader, resolved_at, resolved_by
     from comments where campaign_id = $1 order by at, id`,
    [campaignId],
  );
  const talks = new Map<string, Talk>();
  for (const row of rows) {
    const { id, author, words, review_id: review } = row;
    const said = { id, author, review, words, at: row.at.toISOString() };
    const talk = talks.get(row.answers ?? "");
    if (talk) talk.said.push(said);
    else if (row.answers === null)
      talks.set(id, {
        id,
        block: row.block,
        quote: row.quote,
        reader: row.reader,
        resolved: row.resolved_at && { by: row.resolved_by ?? "", at: row.resolved_at.toISOString() },
        said: [said],
      });
  }
  return [...talks.values()];
}

/** Begins a talk. @throws Refusal without words or a name, or when there are too many */
export async function beginTalk(
  septima: Septima,
  campaignId: string,
  by: Author,
  { block, quote, reader, words }: Place & { reader: number | null; words: string },
): Promise<void> {
  await write(septima, campaignId, by, words, { block, quote, reader });
}

/** Answers in a talk; one that was resolved is open again. @throws Refusal (404) when it is gone */
export async function answerTalk(
  septima: Septima,
  campaignId: string,
  by: Author,
  { talk, words }: { talk: string; words: string },
): Promise<void> {
  await resolveTalk(septima, campaignId, by, { talk, resolved: false });
  await write(septima, campaignId, by, words, { answers: talk });
}

/** Says that what a talk is about is settled, or is not. @throws Refusal (404) when it is gone */
export async function resolveTalk(
  septima: Septima,
  campaignId: string,
  { name }: Author,
  { talk, resolved }: { talk: string; resolved: boolean },
): Promise<void> {
  const rows = await septima.db.query(
    `update comments set resolved_at = $3, resolved_by = $4
     where campaign_id = $1 and id = $2 and answers is null returning id`,
    [campaignId, talk, resolved ? new Date(septima.now()) : null, resolved ? name : null],
  );
  if (rows.length === 0) throw new Refusal("This comment is not there any more.", 404);
}

async function write(
  septima: Septima,
  campaignId: string,
  { name, review }: Author,
  text: string,
  where: Partial<Place> & { reader?: number | null; answers?: string },
): Promise<void> {
  const [author, words] = [name.trim(), text.trim()];
  if (author === "") throw new Refusal("Say who you are: your name stands beside what you write.");
  if (words === "") throw new Refusal("Write something first.");
  if (words.length > LONGEST)
    throw new Refusal(`A comment has at most ${LONGEST} signs; this one has ${words.length}.`);
  const [{ many }] = await septima.db.query<{ many: number }>(
    "select count(*)::int as many from comments where campaign_id = $1",
    [campaignId],
  );
  if (many >= MOST) throw new Refusal(`There are ${MOST} comments already. No more can be added.`);
  const { answers = null, block = null, quote = null, reader = null } = where;
  await septima.db.query(
    `insert into comments (id, campaign_id, answers, review_id, author, words, at, block, quote, reader)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9::jsonb, $10)`,
    [
      septima.newId(),
      campaignId,
      answers,
      review,
      author.slice(0, 80),
      words,
      new Date(septima.now()),
      block,
      quote && JSON.stringify(quote),
      reader,
    ],
  );
}
