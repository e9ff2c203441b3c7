import sharp from "sharp";
import { drawing } from "~/core/drawings";

/** What a stand-in that speaks HTTP answers to a GET. */
export interface Answer {
  status: number;
  type: string;
  body: string | Buffer;
}

/** A drawing of ours as the picture at a path such as `/pictures/leek.png`; null where there is none. */
export async function drawnPicture(path: string): Promise<Answer | null> {
  const name = /^\/pictures\/([a-z-]+)\.png$/.exec(path)?.[1];
  const found = name === undefined ? null : drawing(name);
  if (!found) return null;
  return {
    status: 200,
    type: "image/png",
    body: await sharp(Buffer.from(found.svg)).png({ palette: true }).toBuffer(),
  };
}
