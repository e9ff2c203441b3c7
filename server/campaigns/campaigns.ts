import { parseEmail } from "~/core/blocks";
import { blankEmail, LAYOUTS } from "~/core/compose";
import type { Email } from "~/core/email";
import type { DispatchState } from "~/core/sending";
import { type Selection, SelectionSchema } from "../audience/selection";
import { labelsIn } from "../labels";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { houseTheme } from "../workspace/themes";
import { readDesigns, rememberDesign } from "./designs";
import { foundBy, keepWords, whyFound } from "./finding";

/** One email with its audience. `revision` grows with every save. */
export interface Campaign {
  id: string;
  /** What the design is for: to be sent, or to start from. */
  kind: "campaign" | "template";
  name: string;
  series: string;
  email: Email;
  revision: number;
  readers: Selection;
  updatedAt: string;
}

/** A campaign as the list shows it, with its newest dispatch. */
export interface CampaignLine {
  id: string;
  name: string;
  series: string;
  season: string;
  labels: string[];
  subject: Email["envelope"]["subject"];
  revision: number;
  readers: Selection;
  updatedAt: string;
  /** By what it was found, where its name does not say so. */
  why: string | null;
  dispatch: {
    state: DispatchState;
    scheduledFor: string | null;
    zone: string;
    finishedAt: string | null;
    total: number;
    done: number;
    trouble: string | null;
  } | null;
  /** Of one that goes again and again: its next date. */
  repeats: { scheduledFor: string | null; zone: string } | null;
}

interface CampaignRow {
  id: string;
  kind: Campaign["kind"];
  name: string;
  series: string;
  email: unknown;
  revision: number;
  readers: unknown;
  updated_at: Date;
}

/**
 * All campaigns that are not deleted, changed last first.
 * @param query words that are all found in it: its name and labels, and the words, links and pictures of its design
 * @param archived those that are put away, instead of those that are not
 */
export async function campaigns(septima: Septima, query = "", archived = false): Promise<CampaignLine[]> {
  const found = await foundBy(septima, query, 1);
  const rows = await septima.db.query<
    Omit<CampaignRow, "email" | "kind"> & {
      subject: Email["envelope"]["subject"];
      season: string;
      labels: string[];
      state: DispatchState | null;
      goes_at: Date | null;
      zone: string;
      finished_at: Date | null;
      total: number;
      trouble: string | null;
      done: number;
      next_at: Date | null;
      next_zone: string | null;
      words: string | null;
    }
  >(
    `select c.id, c.name, c.series, c.season, c.labels, coalesce(c.subject, c.email -> 'envelope' -> 'subject') as subject, c.revision,
       c.readers, c.updated_at,
       d.state, d.goes_at, d.zone, d.finished_at, d.total, d.trouble,
       case when d.id is null then 0 else coalesce(d.accepted,
         (select count(*) from recipients r where r.dispatch_id = d.id and r.state = 'accepted')) end as done,
       again.next_at, again.zone as next_zone,
       ${found.wanted.length > 0 ? "c.words" : "null as words"}
     from campaigns c
     left join lateral (
       select d.id, d.state, b.goes_at, b.zone, d.finished_at, d.total, d.trouble, d.accepted
       from dispatches d join bookings b on b.id = d.booking_id
       where d.campaign_id = c.id and d.state <> 'cancelled' order by d.created_at desc limit 1
     ) d on true
     left join bookings again on again.campaign_id = c.id and again.rhythm is not null and again.ended_at is null
     where c.deleted_at is null and c.kind = 'campaign' and (c.archived_at is not null) = ${archived} and ${found.sql}
     order by ${found.rank}, coalesce(d.finished_at, c.updated_at) desc, c.name`,
    found.parameters,
  );
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    series: row.series,
    season: row.season,
    labels: row.labels,
    subject: row.subject,
    revision: row.revision,
    readers: SelectionSchema.parse(row.readers),
    updatedAt: row.updated_at.toISOString(),
    why: whyFound(found.wanted, row),
    dispatch: row.state && {
      state: row.state,
      scheduledFor: row.goes_at?.toISOString() ?? null,
      zone: row.zone,
      finishedAt: row.finished_at?.toISOString() ?? null,
      total: row.total,
      done: row.done,
      trouble: row.trouble,
    },
    repeats:
      row.next_zone === null
        ? null
        : { scheduledFor: row.next_at?.toISOString() ?? null, zone: row.next_zone },
  }));
}

/** The draft that was changed last; null when there is none. */
export async function latestDraft(septima: Septima): Promise<string | null> {
  const [row] = await septima.db.query<{ id: string }>(
    `select id from campaigns c where kind = 'campaign' and deleted_at is null and archived_at is null
       and not exists (select 1 from dispatches d where d.campaign_id = c.id and d.state <> 'cancelled')
       and not exists (select 1 from bookings b where b.campaign_id = c.id and b.rhythm is not null and b.ended_at is null)
     order by updated_at desc, name limit 1`,
  );
  return row?.id ?? null;
}

/**
 * One campaign.
 * @throws Refusal when it does not exist or was deleted
 */
export async function campaign(septima: Septima, id: string): Promise<Campaign> {
  const known = readDesigns(septima).get(id);
  const [row] = await septima.db.query<CampaignRow>(
    `select id, kind, name, series, case when revision = $2 then null else email end as email, revision, readers, updated_at
     from campaigns where id = $1 and deleted_at is null`,
    [id, known?.revision ?? -1],
  );
  if (!row) throw new Refusal("This campaign does not exist, or was deleted.", 404);
  const email = known?.revision === row.revision ? known.email : parseEmail(row.email);
  rememberDesign(septima, id, { revision: row.revision, email });
  return {
    id: row.id,
    kind: row.kind,
    name: row.name,
    series: row.series,
    email,
    revision: row.revision,
    readers: SelectionSchema.parse(row.readers),
    updatedAt: row.updated_at.toISOString(),
  };
}

/** Adds a campaign with a design. Returns its id. */
export async function addCampaign(
  septima: Septima,
  campaign: {
    name: string;
    series: string;
    email: Email;
    readers?: Selection;
    season?: string;
    labels?: readonly string[];
  },
): Promise<string> {
  const id = septima.newId();
  const { name, series, email, readers = { include: [], exclude: [] }, season = "", labels = [] } = campaign;
  await septima.db.transaction(async (tx) => {
    await tx.query(
      `insert into campaigns (id, name, series, email, readers, created_at, updated_at, season, labels)
       values ($1, $2, $3, $4::jsonb, $5::jsonb, $6, $6, $7, $8::jsonb)`,
      [
        id,
        name,
        series,
        JSON.stringify(email),
        JSON.stringify(readers),
        new Date(septima.now()),
        season,
        JSON.stringify(labels),
      ],
    );
    await keepWords(tx, id, email);
    await keepMentions(tx, "readers", id, readers);
  });
  return id;
}

/** Starts a campaign from a blank layout. Returns its id. */
export async function startCampaign(septima: Septima, name: string, layoutId: string): Promise<string> {
  const layout = LAYOUTS.find((one) => one.id === layoutId);
  if (!layout) throw new Refusal("Choose a layout to start from.");
  return startWith(septima, name, (sender, theme) => blankEmail(layout, sender, theme, septima.newId));
}

/** Starts a campaign with what is made for the brand's first sender and the theme in use. Returns its id. */
export async function startWith(
  septima: Septima,
  name: string,
  make: (sender: { name: string; address: string }, theme: string) => Email,
): Promise<string> {
  const brand = await brandOf(septima);
  const email = make(brand.senders[0], await houseTheme(septima));
  return addCampaign(septima, { name: name.trim() || "Untitled", series: "", email });
}

/** What a campaign is filed under. */
export interface Filing {
  name: string;
  series: string;
  season: string;
  /** Parted by commas. */
  labels: string;
}

/** Files a campaign: its name, series, season and labels. */
export async function fileCampaign(septima: Septima, id: string, filing: Filing): Promise<void> {
  if (filing.name.trim() === "") throw new Refusal("Give the campaign a name.");
  await septima.db.query(
    "update campaigns set name = $2, series = $3, season = $4, labels = $5::jsonb where id = $1",
    [id, filing.name.trim(), filing.series.trim(), filing.season, JSON.stringify(labelsIn(filing.labels))],
  );
}

/** Puts a campaign away, where it is only found when asked for, or brings it back. */
export async function setArchived(septima: Septima, id: string, archived: boolean): Promise<void> {
  await septima.db.query("update campaigns set archived_at = $2 where id = $1", [
    id,
    archived ? new Date(septima.now()) : null,
  ]);
}

/** Copies the design and the choice of readers into a new draft. Returns its id. */
export async function copyCampaign(septima: Septima, id: string): Promise<string> {
  const original = await campaign(septima, id);
  return addCampaign(septima, { ...original, name: `${original.name} (copy)` });
}

/**
 * Puts a campaign out of sight; `restoreCampaign` brings it back.
 * @throws Refusal while it is being sent or waits to be
 */
export async function deleteCampaign(septima: Septima, id: string): Promise<void> {
  const [busy] = await septima.db.query(
    "select 1 from dispatches where campaign_id = $1 and state in ('scheduled', 'gathering', 'sending', 'paused')",
    [id],
  );
  if (busy) throw new Refusal("This campaign is going out. Cancel the sending first, then delete it.", 409);
  await septima.db.query("update campaigns set deleted_at = $2 where id = $1", [id, new Date(septima.now())]);
}

export async function restoreCampaign(septima: Septima, id: string): Promise<void> {
  await septima.db.query("update campaigns set deleted_at = null where id = $1", [id]);
}

/** How long a deleted campaign can be brought back, in days. */
export const BIN_DAYS = 30;

const binStart = (septima: Septima) => new Date(septima.now() - BIN_DAYS * 86_400_000);

/** The campaigns in the bin, deleted last first. */
export async function binned(septima: Septima): Promise<{ id: string; name: string; deletedAt: string }[]> {
  const rows = await septima.db.query<{ id: string; name: string; deleted_at: Date }>(
    "select id, name, deleted_at from campaigns where deleted_at >= $1 and kind = 'campaign' order by deleted_at desc",
    [binStart(septima)],
  );
  return rows.map(({ deleted_at, ...row }) => ({ ...row, deletedAt: deleted_at.toISOString() }));
}

/**
 * Throws away for good what has been in the bin for its time. Campaigns that were sent stay out of sight, as their
 * readers' links lead to them.
 */
export async function emptyBin(septima: Septima): Promise<number> {
  const rows = await septima.db.query(
    `delete from campaigns c where c.deleted_at < $1
       and not exists (select 1 from dispatches d where d.campaign_id = c.id) returning id`,
    [binStart(septima)],
  );
  return rows.length;
}

/** Keeps whom a campaign goes to. */
export async function setReaders(septima: Septima, id: string, selection: Selection): Promise<void> {
  const readers = SelectionSchema.parse(selection);
  await septima.db.transaction(async (tx) => {
    await tx.query("update campaigns set readers = $2::jsonb where id = $1", [id, JSON.stringify(readers)]);
    await keepMentions(tx, "readers", id, readers);
  });
}
