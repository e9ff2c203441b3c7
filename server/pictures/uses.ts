/** By what a picture is used, and how it is replaced there. */
import { parseEmail } from "~/core/blocks";
import { type NamedPicture, withPicture } from "~/core/compose";
import { keepNode } from "../campaigns/clippings";
import { changeDesign } from "../campaigns/saving";
import { type Use, usesOf } from "../mentions";
import type { Septima } from "../septima";
import { lookupsOf, saveLookup } from "../workspace/lookups";
import { brandOf, setBrand } from "../workspace/settings";

/** All files that a picture has had, those of now among them. */
async function filesOf(septima: Septima, id: string): Promise<string[]> {
  const rows = await septima.db.query<{ file: string }>("select file from picture_files where picture = $1", [
    id,
  ]);
  return rows.map(({ file }) => file);
}

/** By what a picture is used, in whichever of its versions. */
export async function usesOfPicture(septima: Septima, id: string): Promise<Use[]> {
  return usesOf(septima.db, "picture", await filesOf(septima, id));
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
): Promise<Use[]> {
  const files = (await filesOf(septima, id)).map((file) => `/pictures/${file}`);
  const old = new Set(files.filter((src) => src !== fresh.src));
  const reached: Use[] = [];
  for (const use of await usesOfPicture(septima, id)) {
    if (use.sent || use.id === except) continue;
    if (use.scheduled && !scheduled.includes(use.id)) continue;
    if (await replaceIn(septima, use, old, fresh)) reached.push(use);
  }
  return reached;
}

async function replaceIn(
  septima: Septima,
  use: Use,
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
    case "segment":
    case "referrals":
      return false;
    case "clipping":
      return septima.db.transaction(async (tx) => {
        const [row] = await tx.query<{ node: unknown }>(
          "select node from clippings where id = $1 for update",
          [use.id],
        );
        if (!row) return false;
        await keepNode(tx, use.id, withPicture(row.node, old, fresh), septima.now());
        return true;
      });
    default:
      return changeDesign(septima, use.id, (email) => parseEmail(withPicture(email, old, fresh)));
  }
}
