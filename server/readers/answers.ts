/** Answers to the questions of surveys. */
import { type SurveyBlock, scaleOf } from "~/core/blocks";
import { findNode, inlineText } from "~/core/email";
import type { Answering, Asking } from "~/core/readers";
import { translated } from "~/core/translation";
import { behaviourChanged } from "../audience/answers";
import { addEvents } from "../audience/history";
import { campaign } from "../campaigns/campaigns";
import { ReadersRefusal } from "../refusal";
import type { Septima } from "../septima";
import { readToken } from "../tokens";

/** A survey of the letter that a token was made for, and who answers it. @throws ReadersRefusal where there is none */
async function surveyAsked(septima: Septima, token: string, block: string) {
  const { contact, campaign: id } = await readToken(septima, "answer", token);
  const { email } = await campaign(septima, id);
  const found = findNode(email, block);
  if (found?.kind !== "block" || found.node.type !== "survey") throw new ReadersRefusal("noQuestion");
  const [row] = await septima.db.query<{ answer: number }>(
    "select answer from answers where campaign_id = $1 and block_id = $2 and contact_id = $3",
    [id, block, contact],
  );
  return { email, survey: found.node as unknown as SurveyBlock, given: row?.answer ?? null };
}

/**
 * A survey of a letter as its page asks it, in a language that the letter is written in.
 * @throws ReadersRefusal (404) for a link that was tampered with, or a survey that does not exist
 */
export async function askingOf(
  septima: Septima,
  token: string,
  block: string,
  language: string,
): Promise<Asking> {
  const { email, given } = await surveyAsked(septima, token, block);
  const said = findNode(translated(email, language), block)?.node as unknown as SurveyBlock;
  const [question, low, high] = [said.content, said.low, said.high].map(inlineText);
  return { question, low, high, scale: scaleOf(said), given };
}

/**
 * What a survey's link stands for. Changes nothing: programs that look at links ahead of people must not answer.
 * @throws Refusal (404) for a link that was tampered with, or a survey or answer that does not exist
 */
export async function answerFacts(
  septima: Septima,
  token: string,
  block: string,
  answer: number,
): Promise<Answering> {
  const { survey, given } = await surveyAsked(septima, token, block);
  const scale = scaleOf(survey);
  if (!scale.includes(answer)) throw new ReadersRefusal("noQuestion");
  return { answer, greatest: scale[scale.length - 1], given };
}

/** Records an answer; a reader's later answer takes the place of an earlier one. */
export async function giveAnswer(
  septima: Septima,
  token: string,
  block: string,
  answer: number,
): Promise<void> {
  await answerFacts(septima, token, block, answer);
  const { contact, campaign: id } = await readToken(septima, "answer", token);
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    await tx.query(
      `insert into answers (campaign_id, block_id, contact_id, answer, answered_at) values ($1, $2, $3, $4, $5)
       on conflict (campaign_id, block_id, contact_id) do update set answer = excluded.answer, answered_at = excluded.answered_at`,
      [id, block, contact, answer, at],
    );
    await addEvents(tx, [{ what: "answered", contact, at, campaign: id, place: { block, address: null } }]);
  });
  behaviourChanged(septima);
}
