import { useState } from "react";
import type { Filing, PictureQuery } from "~/server/pictures/library";
import { ask, resultOf } from "../requests";
import { type Part, usePages } from "../ui/use-pages";
import type { Picture } from "./upload";

export type Sought = Partial<Pick<PictureQuery, "words" | "which" | "folder" | "label" | "order">>;

interface Pictures extends Part<Picture> {
  filing: Filing | null;
}

async function load(sought: string, from: number, count: number): Promise<Pictures> {
  const query = { ...Object.fromEntries(new URLSearchParams(sought)), from, count };
  const { pictures, total, filing } = resultOf(await ask("/library/list", { query }));
  return { rows: pictures, total, filing };
}

/** The pictures of the library that fit, and how the library is filed. */
export function usePictureList(sought: Sought) {
  const [filing, setFiling] = useState<Filing | null>(null);
  const key = new URLSearchParams(
    Object.entries(sought).filter(([, value]) => value !== undefined && value !== "") as [string, string][],
  ).toString();
  const { seeking, ...list } = usePages<Picture, Pictures>(key, load, {
    onPart: (part) => part.filing && setFiling(part.filing),
  });
  return { ...list, searching: seeking, filing };
}
