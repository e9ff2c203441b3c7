/** Taking in what comes back, whichever way it came: whom it is about has to be proven before anything comes of it. */
import { createHash } from "node:crypto";
import { type DeliveryStatus, type Returned, readReturned, severity } from "~/core/mime";
import { audienceChanged } from "../audience/answers";
import { type Suppression, suppress } from "../audience/suppressing";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";
import { readReturnPath } from "../tokens";

/** Which way it came. */
export type Via = "postroom" | "folder" | "door";

/** A message as it came back. */
export interface Came {
  via: Via;
  /** Whom it was for, as the envelope says. */
  to: string;
  source: Uint8Array;
}

/** So many letters that fail for a passing reason within so many days are enough. */
export const SOFT = { letters: 3, days: 30 };

/** Kinds of reports that are complaints (RFC 5965, 7.3); others are only shown. */
const COMPLAINTS = new Set(["abuse", "fraud"]);

/** So much of it is kept, in octets. */
const KEPT = 1_000_000;

/** Whom it is about, and by what that is proven. */
interface Proven {
  by: "token" | "message";
  dispatch: string;
  contact: number;
}

/**
 * Takes in what came back: a failed delivery for good suppresses the address, passing ones do when there were too many, a
 * complaint does for ever. What cannot be proven to be about one of ours is kept and does nothing. Twice is as once.
 * @returns whether it was not there yet
 */
export async function takeReturned(septima: Septima, { via, to, source }: Came): Promise<boolean> {
  const id = createHash("sha256").update(`${to.toLowerCase()}\n`).update(source).digest("hex").slice(0, 32);
  const returned = readReturned(source);
  const proven = await provenBy(septima, to, returned);
  const worst = worstOf(returned);
  const at = new Date(septima.now());
  const fresh = await septima.db.transaction(async (tx) => {
    const rows = await tx.query(
      `insert into returned (id, at, via, sent_to, kind, sender, subject, proof, contact_id, dispatch_id, severity, words, effect, source)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, 'shown', decode($13, 'base64'))
       on conflict (id) do nothing returning id`,
      [
        id,
        at,
        via,
        to.slice(0, 500),
        returned.kind,
        returned.from.slice(0, 500),
        returned.subject,
        proven?.by ?? null,
        proven?.contact ?? null,
        proven?.dispatch ?? null,
        proven && worst ? worst.severity : null,
        (worst?.words ?? (returned.kind === "complaint" ? returned.feedback : "")).slice(0, 500),
        Buffer.from(source.subarray(0, KEPT)).toString("base64"),
      ],
    );
    if (rows.length === 0) return false;
    if (!proven) return true;
    const effect = await act(tx, { id, at, proven, returned, worst });
    await tx.query("update returned set effect = $2 where id = $1", [id, effect]);
    return true;
  });
  if (fresh) audienceChanged(septima);
  return fresh;
}

/** What is worst of what a notification says, in words. */
function worstOf({ kind, statuses }: Returned): { severity: "gone" | "soft" | null; words: string } | null {
  if (statuses.length === 0) return null;
  const failed = statuses.filter(({ action }) => action === "failed");
  const worst = failed.find((one) => severity(one) === "gone") ?? failed[0];
  const told: DeliveryStatus = worst ?? statuses[0];
  const words = told.words.includes(told.status) ? told.words : `${told.status} ${told.words}`.trim();
  return { severity: kind === "bounce" && worst ? severity(worst) : null, words };
}

/** What comes of something that is about one of ours. */
async function act(
  tx: Queries,
  it: {
    id: string;
    at: Date;
    proven: Proven;
    returned: Returned;
    worst: ReturnType<typeof worstOf>;
  },
): Promise<"suppressed" | "counted" | "shown"> {
  const { id, at, proven, returned, worst } = it;
  const { contact, dispatch } = proven;
  const suppressed = async (kind: Suppression["kind"], words: string) => {
    await suppress(tx, [{ contact, kind, words, returned: id }], at);
    return "suppressed" as const;
  };
  if (returned.kind === "bounce" || returned.kind === "delay")
    // It stands with what else there was about this message.
    await tx.query(
      `update recipients set troubles = coalesce(troubles, '[]') ||
         jsonb_build_array(jsonb_build_object('at', $3::timestamptz, 'words', $4::text))
       where dispatch_id = $1 and contact_id = $2`,
      [
        dispatch,
        contact,
        at,
        `${returned.kind === "bounce" ? "Came back" : "Is delayed"}: ${worst?.words ?? ""}`,
      ],
    );
  if (returned.kind === "complaint")
    return COMPLAINTS.has(returned.feedback)
      ? suppressed("complaint", `Reported as ${returned.feedback} by ${returned.from}`)
      : "shown";
  if (worst?.severity === "gone") return suppressed("gone", worst.words);
  if (worst?.severity !== "soft") return "shown";
  const [{ letters }] = await tx.query<{ letters: number }>(
    `select count(distinct dispatch_id)::int as letters from returned
     where contact_id = $1 and severity = 'soft' and at > $2::timestamptz - make_interval(days => ${SOFT.days})`,
    [contact, at],
  );
  if (letters < SOFT.letters) return "counted";
  return suppressed(
    "soft",
    `${letters} letters within ${SOFT.days} days came back, the last one with: ${worst.words}`,
  );
}

/**
 * Whom it is about: by a return path of ours that it came by or names, or by a Message-ID of ours, which only whoever got
 * the message knows.
 */
async function provenBy(
  septima: Septima,
  to: string,
  { addresses, about }: Returned,
): Promise<Proven | null> {
  for (const address of [to, ...addresses]) {
    const read = await readReturnPath(septima, address);
    if (read && (await isRecipient(septima, read))) return { by: "token", ...read };
  }
  for (const messageId of about) {
    const [, dispatch, contact] = /^([A-Za-z0-9]{1,64})\.(\d{1,9})\./.exec(messageId) ?? [];
    if (dispatch === undefined) continue;
    const named = { dispatch, contact: Number(contact) };
    if (await isRecipient(septima, named, messageId)) return { by: "message", ...named };
  }
  return null;
}

async function isRecipient(
  septima: Septima,
  { dispatch, contact }: { dispatch: string; contact: number },
  messageId: string | null = null,
): Promise<boolean> {
  const [row] = await septima.db.query(
    `select 1 from recipients where dispatch_id = $1 and contact_id = $2 and claim > 0
       and ($3::text is null or lower(message_id) = lower($3))`,
    [dispatch, contact, messageId],
  );
  return row !== undefined;
}
