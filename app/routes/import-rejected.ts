import { csvRecord } from "~/core/audience";
import { changeById } from "~/server/audience/changing";
import { rejectedLines } from "~/server/audience/importing";
import type { Route } from "./+types/import-rejected";

/** The lines of a file that were not taken, each with its number and why, to be mended and brought in again. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { name } = await changeById(septima, params.file);
  const lines = await rejectedLines(septima, params.file);
  const text = lines.map(({ line, reason, cells }) => csvRecord([line, reason, ...cells])).join("");
  return new Response(`\ufeff${csvRecord(["Line", "Why it was not taken"])}${text}`, {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(`not taken from ${name}`)}`,
      "cache-control": "no-store",
    },
  });
}
