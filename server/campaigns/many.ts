/** What is done to several campaigns or templates at once. */
import { z } from "zod";
import { SEASONS } from "~/core/email";
import { labelsIn } from "../labels";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { deleteCampaign, restoreCampaign, setArchived } from "./campaigns";

export const DoingSchema = z.discriminatedUnion("do", [
  /** Gives or takes labels, parted by commas. */
  z.object({ do: z.enum(["label", "unlabel"]), labels: z.string().max(400) }),
  z.object({ do: z.literal("series"), series: z.string().max(200) }),
  z.object({ do: z.literal("season"), season: z.enum(["", ...SEASONS]) }),
  z.object({ do: z.enum(["archive", "unarchive", "delete", "restore"]) }),
]);
export type Doing = z.infer<typeof DoingSchema>;

/** So many can be changed at once. */
export const MOST_AT_ONCE = 1000;

/**
 * Does the same to several designs; what one of them refuses keeps none of the others from it.
 * @param ids of campaigns or templates, at most a thousand
 * @returns those it was done to, and a sentence for each that refused
 */
export async function changeSeveral(
  septima: Septima,
  ids: readonly string[],
  doing: Doing,
): Promise<{ done: string[]; refused: string[] }> {
  const done: string[] = [];
  const refused: string[] = [];
  const rows = await septima.db.query<{ id: string; name: string }>(
    "select id, name from campaigns where id = any($1::text[])",
    [ids.slice(0, MOST_AT_ONCE)],
  );
  for (const { id, name } of rows) {
    try {
      await changeOne(septima, id, doing);
      done.push(id);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      refused.push(`“${name}”: ${error.message}`);
    }
  }
  return { done, refused };
}

async function changeOne(septima: Septima, id: string, doing: Doing): Promise<void> {
  switch (doing.do) {
    case "label":
    case "unlabel":
      return septima.db.transaction(async (tx) => {
        const [{ labels }] = await tx.query<{ labels: string[] }>(
          "select labels from campaigns where id = $1 for update",
          [id],
        );
        const given = labelsIn(doing.labels);
        const next =
          doing.do === "label"
            ? labelsIn([...labels, ...given].join(","))
            : labels.filter((label) => !given.includes(label));
        await tx.query("update campaigns set labels = $2::jsonb where id = $1", [id, JSON.stringify(next)]);
      });
    case "series":
      await septima.db.query("update campaigns set series = $2 where id = $1", [id, doing.series.trim()]);
      return;
    case "season":
      await septima.db.query("update campaigns set season = $2 where id = $1", [id, doing.season]);
      return;
    case "archive":
    case "unarchive":
      return setArchived(septima, id, doing.do === "archive");
    case "delete":
      return deleteCampaign(septima, id);
    case "restore":
      return restoreCampaign(septima, id);
  }
}
