import { parseEmail } from "~/core/blocks";
import type { Email } from "~/core/email";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** A design as it was. Without a name it was kept by itself. */
export interface VersionLine {
  id: string;
  name: string | null;
  revision: number;
  at: string;
}

/** While somebody works, a version is kept this often, in milliseconds; so many without a name are kept. */
const EVERY = 10 * 60_000;
const AUTOMATIC = 100;

/** In a statement that makes versions, `kept`, of designs as they are: each refers to what its design does. */
const MENTIONED = `mentioned as (insert into mentions (holder, which, kind, key)
  select 'version', kept.id, m.kind, m.key from kept
  join mentions m on m.holder = 'design' and m.which = kept.campaign_id)`;

/** The versions of a campaign's design, newest first. */
export async function versions(septima: Septima, campaignId: string): Promise<VersionLine[]> {
  const rows = await septima.db.query<{ id: string; name: string | null; revision: number; kept_at: Date }>(
    "select id, name, revision, kept_at from versions where campaign_id = $1 order by kept_at desc, revision desc",
    [campaignId],
  );
  return rows.map(({ kept_at, ...row }) => ({ ...row, at: kept_at.toISOString() }));
}

/**
 * The design of one version.
 * @throws Refusal (404) when it is gone
 */
export async function version(septima: Septima, campaignId: string, id: string): Promise<Email> {
  const [row] = await septima.db.query<{ email: unknown }>(
    "select email from versions where campaign_id = $1 and id = $2",
    [campaignId, id],
  );
  if (!row) throw new Refusal("This version does not exist any more.", 404);
  return parseEmail(row.email);
}

/** Keeps the design as it is saved now, under a name. Returns the version's id. */
export async function keepVersion(septima: Septima, campaignId: string, name: string): Promise<string> {
  if (name.trim() === "") throw new Refusal("Give the version a name.");
  const id = septima.newId();
  const rows = await septima.db.query(
    `with kept as (insert into versions (id, campaign_id, name, email, revision, kept_at)
       select $1, id, $2, email, revision, $3 from campaigns where id = $4 and deleted_at is null
       returning id, campaign_id),
     ${MENTIONED} select id from kept`,
    [id, name.trim().slice(0, 120), new Date(septima.now()), campaignId],
  );
  if (rows.length === 0) throw new Refusal("This campaign does not exist, or was deleted.", 404);
  return id;
}

/** Gives a version a name, so that it is not cleared away; an empty one takes it back. */
export async function nameVersion(
  septima: Septima,
  campaignId: string,
  id: string,
  name: string,
): Promise<void> {
  await septima.db.query("update versions set name = $3 where campaign_id = $1 and id = $2", [
    campaignId,
    id,
    name.trim() === "" ? null : name.trim().slice(0, 120),
  ]);
}

/**
 * Keeps the design that a save is about to replace, unless one was kept in the last ten minutes. The oldest ones
 * without a name go when there are more than a hundred.
 * @param last when one was last kept
 */
export async function keepAutomatically(
  septima: Septima,
  tx: Queries,
  campaignId: string,
  last: Date | null,
): Promise<void> {
  const now = septima.now();
  if (last && now - last.getTime() < EVERY) return;
  await tx.query(
    `with kept as (insert into versions (id, campaign_id, email, revision, kept_at)
       select $1, id, email, revision, $2 from campaigns where id = $3 returning id, campaign_id),
     ${MENTIONED} select id from kept`,
    [septima.newId(), new Date(now), campaignId],
  );
  await tx.query(
    `delete from versions where campaign_id = $1 and name is null and id not in (
       select id from versions where campaign_id = $1 and name is null order by kept_at desc limit $2)`,
    [campaignId, AUTOMATIC],
  );
}
