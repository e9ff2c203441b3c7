/** Telling those who want to know what became of the dates of a booking that repeats. */
import { momentWords } from "~/core/sending";
import { sendNote } from "../mail/note";
import type { Septima } from "../septima";

/** What somebody is told of. */
type Told = "sent" | "paused" | "cancelled" | "skipped";

interface ToTell {
  booking_id: string;
  at: Date;
  zone: string;
  tells: string[];
  name: string;
  campaign_id: string;
  became: Told;
  why: string | null;
  accepted: number | null;
  was: string | null;
}

/** Where the relay was away, it is tried again after so many milliseconds. */
const AGAIN = 60_000;

const BECAME = "case when d.id is null then 'skipped' else d.state end";

/**
 * Tells what has come of dates since somebody was told last. What is told is noted before, so that of several who tell only
 * one does; what could not be handed over is told later.
 */
export async function tellOfDigests(septima: Septima): Promise<void> {
  const key = "telling of digests again";
  if (((septima.cache.get(key) as number | undefined) ?? 0) > septima.now()) return;
  const open = await septima.db.query<ToTell>(
    `select o.booking_id, o.at, b.zone, b.tells, c.name, c.id as campaign_id, ${BECAME} as became,
       coalesce(o.why, d.trouble) as why, d.accepted, o.told as was
     from occurrences o join bookings b on b.id = o.booking_id join campaigns c on c.id = b.campaign_id
     left join dispatches d on d.id = o.dispatch_id
     where o.outcome is not null and cardinality(b.tells) > 0 and o.told is distinct from ${BECAME}
       and (d.id is null or d.state in ('sent', 'paused', 'cancelled'))
     order by o.at`,
  );
  for (const one of open) {
    const note = (from: string | null, to: string | null) =>
      septima.db.query(
        `update occurrences set told = $3 where booking_id = $1 and at = $2 and told is not distinct from $4
         returning booking_id`,
        [one.booking_id, one.at, to, from],
      );
    if ((await note(one.was, one.became)).length === 0) continue;
    try {
      for (const to of one.tells) await tell(septima, one, to);
    } catch (error) {
      await note(one.became, one.was);
      septima.cache.set(key, septima.now() + AGAIN);
      throw error;
    }
  }
}

const readers = (count: number) => `${count.toLocaleString("en")} ${count === 1 ? "reader" : "readers"}`;

/** What is said, by what became of a date. */
const SAID: Record<Told, (of: ToTell) => { subject: string; line: string }> = {
  sent: ({ name, accepted }) => ({
    subject: `“${name}” went to ${readers(accepted ?? 0)}`,
    line: "All of its readers have it now, as far as their mail programs take it.",
  }),
  skipped: ({ name, why }) => ({ subject: `“${name}” was skipped`, line: why ?? "" }),
  paused: ({ name, why }) => ({
    subject: `“${name}” waits for you`,
    line: why ?? "It was paused by hand.",
  }),
  cancelled: ({ name }) => ({ subject: `“${name}” was cancelled`, line: "It was cancelled by hand." }),
};

async function tell(septima: Septima, of: ToTell, to: string): Promise<void> {
  const { subject, line } = SAID[of.became](of);
  const when = momentWords({ epoch: of.at.getTime(), zone: of.zone });
  await sendNote(septima, {
    to,
    list: "digests",
    language: "en",
    id: `digest-${of.booking_id}-${of.at.getTime()}-${of.became}`,
    subject,
    lines: [`Its date was ${when}.`, line],
    button: { words: "Look at it", href: `${septima.config.origin}/campaigns/${of.campaign_id}/send` },
  });
}
