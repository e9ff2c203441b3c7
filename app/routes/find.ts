import { partWords } from "~/core/compose";
import { campaigns } from "~/server/campaigns/campaigns";
import { clippings } from "~/server/campaigns/clippings";
import { templates } from "~/server/campaigns/templates";
import { findPictures, type Picture, PictureQuerySchema } from "~/server/pictures/library";
import type { Septima } from "~/server/septima";
import type { Route } from "./+types/find";

/** Something that can be found from anywhere. */
export interface FoundDesign {
  kind: "campaign" | "template" | "clipping" | "picture";
  id: string;
  name: string;
  /** More about it: its series, or what it is like. */
  aside: string;
}

/** With words, what is found by them; without, all campaigns and templates by name. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const query = new URL(request.url).searchParams.get("q") ?? "";
  const wanted = query.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (...text: string[]) => wanted.every((word) => text.join(" ").toLowerCase().includes(word));
  const [drafts, archived, all, kept, pictures] = await Promise.all([
    campaigns(septima, query),
    query === "" ? [] : campaigns(septima, query, true),
    templates(septima),
    clippings(septima),
    query === "" ? [] : picturesCalled(septima, query),
  ]);
  const found: FoundDesign[] = [
    ...[...drafts, ...archived].map(({ id, name, series }) => ({
      kind: "campaign" as const,
      id,
      name,
      aside: series,
    })),
    ...all
      .filter((line) => !line.archived || query !== "")
      .filter(({ name, about, season, labels, words }) => fits(name, about, season, ...labels, words))
      .map(({ id, name, about }) => ({ kind: "template" as const, id, name, aside: about })),
    ...kept
      .filter((one) => fits(one.name, ...one.labels, partWords(one)))
      .map(({ id, name, part }) => ({ kind: "clipping" as const, id, name, aside: part })),
    ...pictures.map(({ id, name, folder }) => ({ kind: "picture" as const, id, name, aside: folder })),
  ];
  return found;
}

/** The first pictures that fit, those put away after those that are offered. */
async function picturesCalled(septima: Septima, query: string): Promise<Picture[]> {
  const parts = await Promise.all(
    (["all", "archived"] as const).map((which) =>
      findPictures(septima, PictureQuerySchema.parse({ words: query.slice(0, 200), which, count: 30 })),
    ),
  );
  return parts.flatMap(({ pictures }) => pictures).slice(0, 30);
}
