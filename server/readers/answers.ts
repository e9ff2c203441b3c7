/** Answers to the questions of surveys. */
import { scaleOf } from "~/core/blocks";
import { findNode } from "~/core/email";
import type { Answering } from "~/core/readers";
import { behaviourChanged } from "../audience/answers";
import { addEvents } from "../audience/history";
import { campaign } from "../campaigns/campaigns";
import { ReadersRefusal } from "../refusal";
import type { Septima } from "../septima";
import { readToken } from "../tokens";

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
  const { contact, campaign: id } = await readToken(septima, "answer", token);
  const { email } = await campaign(septima, id);
  const found = findNode(email, block);
  const survey = found?.kind === "block" && found.node.type === "survey" ? found.node : null;
  const scale = survey ? scaleOf(survey as unknown as { from: number; to: number }) : [];
  if (!scale.includes(answer)) throw new ReadersRefusal("noQuestion");
  const [row] = await septima.db.query<{ answer: number }>(
    "select answer from answers where campaign_id = $1 and block_id = $2 and contact_id = $3",
    [id, block, contact],
  );
  return { answer, greatest: scale[scale.length - 1], given: row?.answer ?? null };
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
