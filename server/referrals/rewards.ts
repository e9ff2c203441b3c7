/** What readers earned by bringing friends is sent to them, each once, with its code where there is one to it. */

import { put, tongueOf } from "~/core/readers";
import { sendNote } from "../mail/note";
import { RelayError } from "../mail/relay";
import type { Septima } from "../septima";
import { takeCodes } from "../sources/codes";
import { brandOf } from "../workspace/settings";

export const REWARD_JOB = "give-rewards";

interface Waiting {
  contact_id: number;
  step: string;
  words: string;
  batch: string | null;
  code: string | null;
  email: string;
  name: string | null;
  language: string | null;
}

/** Takes a code of a batch for a reward; null while there is none. A code once taken stays this reward's. */
async function codeFor(
  septima: Septima,
  { contact_id: contact, step }: Waiting,
  batch: string,
): Promise<string | null> {
  return septima.db.transaction(async (tx) => {
    const [row] = await tx.query<{ code: string | null }>(
      "select code from rewards where contact_id = $1 and step = $2 for update",
      [contact, step],
    );
    if (row?.code) return row.code;
    const [kind] = await tx.query<{ per: string }>("select per from code_batches where key = $1 for update", [
      batch,
    ]);
    // Of a batch whose codes are a reader's for ever, they have one, whatever for.
    const whose = kind?.per === "ever" ? "" : `reward ${step}`;
    const [own] = await tx.query<{ code: string }>(
      "select code from codes where batch = $1 and contact_id = $2 and campaign_id = $3",
      [batch, contact, whose],
    );
    const at = new Date(septima.now());
    const taken = own ? null : await takeCodes(tx, batch, [contact], { whose, dispatchId: null, at });
    const code = own?.code ?? taken?.get(contact) ?? null;
    if (code !== null)
      await tx.query("update rewards set code = $3 where contact_id = $1 and step = $2", [
        contact,
        step,
        code,
      ]);
    return code;
  });
}

/** Sends the rewards that wait. Those for which there is no code yet, and those that cannot leave, wait on. */
export async function giveRewards(septima: Septima): Promise<void> {
  const waiting = await septima.db.query<Waiting>(
    `select w.contact_id, w.step, w.words, w.batch, w.code, c.email, c.fields ->> 'first_name' as name,
       c.fields ->> 'language' as language
     from rewards w join contacts c on c.id = w.contact_id
     where w.sent_at is null and c.status = 'subscribed' order by w.earned_at, w.contact_id limit 500`,
  );
  if (waiting.length === 0) return;
  const brand = await brandOf(septima);
  for (const it of waiting) {
    const code = it.batch === null ? null : (it.code ?? (await codeFor(septima, it, it.batch)));
    if (it.batch !== null && code === null) continue;
    const { language, words } = tongueOf(it.language);
    const say = (what: string) =>
      put(what, { brand: brand.name, name: it.name ?? "", reward: it.words, code: code ?? "" });
    try {
      await sendNote(septima, {
        list: "referrals",
        to: it.email,
        id: `reward.${it.contact_id}.${it.step}`,
        language,
        subject: say(words.thanks),
        lines: [
          `${say(it.name ? words.mailHello : words.mailHelloNobody)} ${say(words.thanksWords)}`,
          ...(code === null ? [] : [say(words.thanksCode)]),
        ],
      });
    } catch (error) {
      if (!(error instanceof RelayError)) throw error;
      if (error.kind === "closed" || error.kind === "away") return;
      continue;
    }
    await septima.db.query("update rewards set sent_at = $3 where contact_id = $1 and step = $2", [
      it.contact_id,
      it.step,
      new Date(septima.now()),
    ]);
  }
}
