/** Readers and content of a sending, frozen when its moment has come; everything that was asked when it was booked is asked again. */
import { RuleError } from "~/core/audience";
import { sourcesShown } from "~/core/blocks";
import { signingDomain } from "~/core/mime";
import { type Bound, batchOf, isCode } from "~/core/personal";
import { notSigned } from "~/core/preflight";
import { hasDrifted } from "~/core/sending";
import { recipientsSql } from "../audience/selection";
import { allowBroad, type Queries } from "../db/database";
import { signedDomains } from "../mail/signing-keys";
import { findingsIn } from "../preflight/preflight";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { CodesShort, reserveCodes } from "../sources/codes";
import { refreshAll } from "../sources/sources";
import { type Booked, moveDispatch, stateOf } from "./dispatches";
import { keepFrozen } from "./frozen";
import { type Chosen, type Content, contentOf, eachRecipient, type Gathered, sharedOf } from "./gathered";

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
 * Writes one row per reader and freezes all that goes into their messages, all or nothing. Whatever stands in the way pauses the dispatch
 * with a sentence that says what it is.
 */
export async function gather(world: Septima, dispatch: Booked): Promise<void> {
  // Who gets it and what is in it is asked anew, whatever this process knows.
  const septima = { ...world, cache: new Map() };
  try {
    await refreshAll(septima, sourcesShown(dispatch.email));
    const obstacles = (await findingsIn(septima, dispatch)).filter(({ weight }) => weight === "stops");
    if (obstacles.length > 0) {
      const words = `${obstacles.map(({ text }) => text).join(" ")} Nobody got anything yet.`;
      throw new Refusal(words);
    }
    await freeze(septima, dispatch);
  } catch (error) {
    // What was begun before an orderly stop begins anew after the next start.
    if (septima.stopping.aborted) throw error;
    if (error instanceof Elsewhere) return;
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

/** Somebody else gathered it meanwhile, or it was cancelled: there is nothing to do. */
class Elsewhere extends Error {}

/** @throws Drifted, CodesShort, RuleError, Elsewhere; then nothing was written */
async function freeze(septima: Septima, dispatch: Booked): Promise<void> {
  const { id, campaignId, confirmed, tolerance } = dispatch;
  const at = new Date(septima.now());
  const content = await contentOf(septima, dispatch);
  const shared = await sharedOf(septima, dispatch);
  const signed = await signedDomains(septima);
  await septima.db.transaction(async (tx) => {
    await allowBroad(tx);
    // Of two who gather the same the second waits, and finds it done.
    await tx.query("select pg_advisory_xact_lock(hashtext('gathering'), hashtext($1))", [id]);
    if ((await stateOf(tx, id)) !== "gathering") throw new Elsewhere();
    const chosen = recipientsSql(dispatch.repeats ? null : campaignId, dispatch.readers, content.context);
    const gathered = await writeRecipients(tx, content, { id, at }, chosen);
    const { total, program, senders } = gathered;
    const unsigned = notSigned(
      [...new Set([...senders].map(signingDomain))].filter((domain) => domain !== "" && !signed.has(domain)),
    );
    if (unsigned) throw new Refusal(`${unsigned} Nobody got anything yet.`);
    if (hasDrifted(confirmed, total, tolerance)) throw new Drifted(confirmed, total);
    await reserveShown(tx, { id, campaignId, at }, content, gathered);
    const moved = await tx.query(
      `update dispatches set state = 'sending', total = $2, gathered_at = $3, marks = $4::jsonb
       where id = $1 and state = 'gathering' returning id`,
      [id, total, at, JSON.stringify(content.picks.marks)],
    );
    if (moved.length === 0) throw new Elsewhere();
    // The next date is compared with this one.
    if (dispatch.repeats)
      await tx.query(
        "update bookings set confirmed = $2 where id = (select booking_id from dispatches where id = $1)",
        [id, total],
      );
    await keepFrozen(tx, id, { program, ...shared });
  });
}

/** Freezes what a dispatch still has to send that was gathered before anything was frozen. */
export async function freezeLate(septima: Septima, dispatch: Booked): Promise<void> {
  const { id } = dispatch;
  const content = await contentOf(septima, dispatch);
  const shared = await sharedOf(septima, dispatch);
  await septima.db.transaction(async (tx) => {
    const [open] = await tx.query("select 1 from dispatches where id = $1 and frozen is null for update", [
      id,
    ]);
    if (!open) return;
    const waiting = {
      sql: "exists (select 1 from recipients r where r.dispatch_id = $1 and r.contact_id = c.id and r.state in ('pending', 'handing'))",
      params: [id],
    };
    const at = new Date(septima.now());
    const { program } = await writeRecipients(tx, content, { id, at }, waiting);
    await keepFrozen(tx, id, { program, ...shared });
  });
}

/** Writes one row for each reader: which edition is theirs, and what the program writes of them. */
function writeRecipients(
  tx: Queries,
  content: Content,
  dispatch: { id: string; at: Date },
  chosen: Chosen,
): Promise<Gathered> {
  return eachRecipient(tx, content, chosen, (rows) =>
    tx.query(
      `insert into recipients (dispatch_id, contact_id, edition, address, name, facts, changed_at)
       select $1, r.id, r.edition, r.address, r.name, r.facts, $2
       from unnest($3::int[], $4::int[], $5::text[], $6::text[], $7::text[]) as r(id, edition, address, name, facts)
       on conflict (dispatch_id, contact_id) do update
         set edition = excluded.edition, address = excluded.address, name = excluded.name, facts = excluded.facts`,
      [dispatch.id, dispatch.at, rows.ids, rows.editions, rows.addresses, rows.names, rows.facts],
    ),
  );
}

/** Hands codes to those who are shown any, within the transaction that gathers them. @throws CodesShort */
export async function reserveShown(
  tx: Queries,
  dispatch: { id: string; campaignId: string; at: Date },
  { bound }: Pick<Content, "bound">,
  { shown }: Pick<Gathered, "shown">,
): Promise<void> {
  // In the same order everywhere, so that two dispatches do not wait for each other.
  for (const [batch, readers] of [...shown].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const { name, missing } = await reserveCodes(tx, dispatch, batch, readers);
    if (missing > 0 && mustHaveCode(bound, batch)) throw new CodesShort(name, missing);
  }
}

/** Whether readers would get nothing where a code is missing. */
function mustHaveCode({ slots }: Bound, batch: string): boolean {
  const own = slots.filter(({ field }) => isCode(field) && batchOf(field) === batch);
  // An address that words stand beside may do without.
  const words = own.filter(({ sink }) => sink !== "component");
  return (words.length > 0 ? words : own).some(({ fallback }) => fallback.trim() === "");
}
