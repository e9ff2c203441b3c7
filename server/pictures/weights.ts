/** What the pictures of a message weigh, as mail programs fetch them. */
import { isTag } from "domhandler";
import { parseDocument } from "htmlparser2";
import { campaignAs } from "../campaigns/rendering";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { clockFile, drawingFile, glyphFile, playFile } from "../workspace/drawn";
import { pictureFile } from "./files";
import { picturesOfFiles } from "./library";

/** Mail is light below this, in octets: all pictures together, and each. */
const LIGHT = { all: 1_000_000, each: 200_000 };

/** One picture of a message. */
export interface PictureWeight {
  /** As it is fetched. */
  address: string;
  /** The picture of the library that it is; null for drawings of ours and pictures from elsewhere. */
  picture: { id: string; name: string; src: string } | null;
  name: string;
  /** How wide it is shown, in CSS px; null behind content. */
  shown: number | null;
  /** Octets; null where it lies elsewhere. */
  bytes: number | null;
  type: string | null;
}

/** All that a message fetches, heaviest first, and what it weighs together. */
export interface Weights {
  pictures: PictureWeight[];
  total: number;
  light: typeof LIGHT;
}

interface Fetched {
  address: string;
  shown: number | null;
}

/** The pictures a message fetches, each once. */
function fetchedPictures(html: string): Fetched[] {
  const found = new Map<string, Fetched>();
  const look = (nodes: ReturnType<typeof parseDocument>["children"]) => {
    for (const node of nodes) {
      if (!isTag(node)) continue;
      const { src, background, width } = node.attribs;
      if (node.name === "img" && src && !found.has(src))
        found.set(src, { address: src, shown: Number(width) || null });
      if (background && !found.has(background)) found.set(background, { address: background, shown: null });
      look(node.children);
    }
  };
  look(parseDocument(html).children);
  return [...found.values()];
}

/**
 * What the pictures of a campaign weigh, in the edition that most readers get.
 * @throws Refusal (404) when it is gone
 */
export async function pictureWeights(septima: Septima, campaignId: string): Promise<Weights> {
  const { message } = await campaignAs(septima, campaignId);
  const { origin } = septima.config;
  const pictures = await Promise.all(
    fetchedPictures(message.html).map(async (one): Promise<PictureWeight> => {
      const own = one.address.startsWith(`${origin}/`) ? one.address.slice(origin.length) : null;
      const [, folder, file, how] =
        /^\/(pictures|drawings|glyphs|clock)\/([\w.-]+)(\/play|\/\d+)?/.exec(own ?? "") ?? [];
      const nothing = { ...one, picture: null, name: one.address, bytes: null, type: null };
      if (!folder) return nothing;
      try {
        if (folder !== "pictures") {
          const read = { drawings: drawingFile, glyphs: glyphFile }[folder];
          const data = read ? await read(file) : await clockFile(file, septima.now());
          return { ...nothing, name: file, bytes: data.byteLength, type: "image/png" };
        }
        const { type, data } =
          how === "/play"
            ? await playFile(septima, file)
            : await pictureFile(septima, file, how ? Number(how.slice(1)) : undefined);
        const picture = (await picturesOfFiles(septima, [file])).get(file);
        const named = picture ? { id: picture.id, name: picture.name, src: `/pictures/${file}` } : null;
        return { ...nothing, picture: named, name: picture?.name ?? file, bytes: data.byteLength, type };
      } catch (error) {
        if (error instanceof Refusal) return nothing;
        throw error;
      }
    }),
  );
  pictures.sort((one, other) => (other.bytes ?? -1) - (one.bytes ?? -1));
  return { pictures, total: pictures.reduce((sum, one) => sum + (one.bytes ?? 0), 0), light: LIGHT };
}
