/** By what a picture is used, and how it is replaced there. */
import { parseEmail } from "~/core/blocks";
import { type NamedPicture, withPicture } from "~/core/compose";
import { changeDesign } from "../campaigns/saving";
import type { Septima } from "../septima";
import { lookupsOf, saveLookup } from "../workspace/lookups";
import { brandOf, setBrand } from "../workspace/settings";

/** One thing that shows a picture. */
export interface PictureUse {
  kind: "campaign" | "template" | "clipping" | "lookup" | "brand";
  /** Of a campaign, a template or a clipping; the key of a lookup. */
  id: string;
  name: string;
  /** Whether what readers get of it can still change. */
  sent: boolean;
  /** When it goes, where it is scheduled. */
  scheduled: { at: string; zone: string } | null;
}

/** All files that a picture has had, those of now among them. */
export async function filesOf(septima: Septima, id: string): Promise<string[]> {
  const rows = await septima.db.query<{ file: string }>("select file from picture_files where picture = $1", [
    id,
  ]);
  return rows.map(({ file }) => file);
}

/** By what a picture is used, in whichever of its versions. */
export async function usesOfPicture(septima: Septima, id: string): Promise<PictureUse[]> {
  const files = await filesOf(septima, id);
  const designs = await septima.db.query<PictureUse>(
    `select c.kind, c.id, c.name,
       exists (select 1 from dispatches d where d.campaign_id = c.id and d.state not in ('cancelled', 'scheduled')) as sent,
       (select jsonb_build_object('at', d.scheduled_for, 'zone', d.zone) from dispatches d
        where d.campaign_id = c.id and d.state = 'scheduled' limit 1) as scheduled
     from campaigns c where c.deleted_at is null and c.pictures && $1::text[] 
     order by c.kind, sent, lower(c.name), c.id`,
    [files],
  );
  const clippings = await septima.db.query<PictureUse>(
    `select 'clipping' as kind, k.id, k.name, false as sent, null::jsonb as scheduled from clippings k
     where k.deleted_at is null and k.node::text like any($1::text[]) order by lower(k.name), k.id`,
    [files.map((file) => `%/pictures/${file}%`)],
  );
  const lookups = (await lookupsOf(septima)).flatMap((lookup): PictureUse[] => {
    const said = JSON.stringify([lookup.cases, lookup.otherwise]);
    const uses = files.some((file) => said.includes(`/pictures/${file}"`));
    return uses ? [{ kind: "lookup", id: lookup.key, name: lookup.name, sent: false, scheduled: null }] : [];
  });
  const brand = await brandOf(septima);
  const text = JSON.stringify(brand);
  const shown = files.some((file) => text.includes(`/pictures/${file}`));
  return [
    ...designs,
    ...clippings,
    ...lookups,
    ...(shown ? [{ kind: "brand" as const, id: "", name: brand.name, sent: false, scheduled: null }] : []),
  ];
}

/** Where a picture that was saved over is shown anew. */
export interface Reach {
  /** A campaign that is changed by its own window. */
  except?: string;
  /** The scheduled campaigns that are to show it, too: of the others what was ordered stays. */
  scheduled?: readonly string[];
}

/**
 * Shows another picture wherever some files are shown and may still change: in campaigns that were neither sent nor
 * scheduled, in templates, clippings and the brand.
 * @returns what was changed
 */
export async function replaceEverywhere(
  septima: Septima,
  id: string,
  fresh: NamedPicture,
  { except, scheduled = [] }: Reach = {},
): Promise<PictureUse[]> {
  const files = (await filesOf(septima, id)).map((file) => `/pictures/${file}`);
  const old = new Set(files.filter((src) => src !== fresh.src));
  const reached: PictureUse[] = [];
  for (const use of await usesOfPicture(septima, id)) {
    if (use.sent || (use.id !== "" && use.id === except)) continue;
    if (use.scheduled && !scheduled.includes(use.id)) continue;
    if (await replaceIn(septima, use, old, fresh)) reached.push(use);
  }
  return reached;
}

async function replaceIn(
  septima: Septima,
  use: PictureUse,
  old: ReadonlySet<string>,
  fresh: NamedPicture,
): Promise<boolean> {
  switch (use.kind) {
    case "brand":
      await setBrand(septima, withPicture(await brandOf(septima), old, fresh));
      return true;
    case "lookup": {
      const lookup = (await lookupsOf(septima)).find(({ key }) => key === use.id);
      if (!lookup) return false;
      const { revision, ...kept } = lookup;
      await saveLookup(septima, withPicture(kept, old, fresh), revision);
      return true;
    }
    case "clipping":
      return septima.db.transaction(async (tx) => {
        const [row] = await tx.query<{ node: unknown }>(
          "select node from clippings where id = $1 for update",
          [use.id],
        );
        if (!row) return false;
        await tx.query(
          "update clippings set node = $2::jsonb, revision = revision + 1, updated_at = $3 where id = $1",
          [use.id, JSON.stringify(withPicture(row.node, old, fresh)), new Date(septima.now())],
        );
        return true;
      });
    default:
      return changeDesign(septima, use.id, (email) => parseEmail(withPicture(email, old, fresh)));
  }
}
