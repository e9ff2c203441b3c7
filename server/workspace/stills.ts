import { Parser } from "htmlparser2";
import { fetchFor } from "../fetching";
import type { Picture } from "../pictures/library";
import { addPicture } from "../pictures/taking";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/**
 * The still of a film, from the address of its page: the picture the page itself names (`og:image`, or the `poster`
 * of its video), taken into the workspace with the page's title as its alternative text.
 * @throws Refusal when the page cannot be had or names no picture
 */
export async function stillOf(septima: Septima, address: string): Promise<Picture> {
  const page = (await fetchFor(septima, address)).toString("utf8");
  const { image, title } = namedPicture(page);
  if (!image) throw new Refusal("This page does not name a still of its film. Choose a picture instead.");
  const src = new URL(image, address).href;
  const data = await fetchFor(septima, src);
  return addPicture(septima, title || "Still", data, title);
}

/** What a page says about its picture and its title in its head. */
function namedPicture(html: string): { image: string; title: string } {
  const found: Record<string, string> = {};
  const parser = new Parser({
    onopentag(name, attributes) {
      const property = attributes.property ?? attributes.name;
      if (name === "meta" && /^og:(image|title)$/.test(property ?? ""))
        found[property] ??= attributes.content ?? "";
      if (name === "video" && attributes.poster) found.poster ??= attributes.poster;
    },
  });
  parser.end(html);
  return { image: found["og:image"] || found.poster || "", title: found["og:title"] ?? "" };
}
