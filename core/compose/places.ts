import { blockTitle } from "../blocks";
import { type Email, findNode, type Kind, pathTo, walk } from "../email";

/** What is being moved or added. `id` is set when it stands in the email already. */
export interface Carried {
  kind: Exclude<Kind, "column">;
  id?: string;
  /** Further blocks that go along with it. */
  also?: readonly string[];
}

/**
 * A place between things. What lands there is put into `parent` (the email itself when null) at `index`; `wants` is
 * the kind of thing that stands there, so a block that lands between rows is wrapped in a row.
 */
export interface Place {
  parent: string | null;
  index: number;
  wants: Exclude<Kind, "column">;
}

export function samePlace(a: Place | null, b: Place | null): boolean {
  return a === b || (!!a && !!b && a.parent === b.parent && a.index === b.index);
}

/**
 * All places where something may land, in reading order. Blocks land in columns and, as rows of their own, between
 * rows; rows land between rows; sections between sections. A place that would change nothing is left out.
 */
export function placesFor(email: Email, carried: Carried): Place[] {
  const places: Place[] = [];
  if (carried.kind === "section") {
    for (let index = 0; index <= email.sections.length; index++)
      places.push({ parent: null, index, wants: "section" });
  } else {
    for (const section of email.sections) {
      for (const [index, row] of section.rows.entries()) {
        places.push({ parent: section.id, index, wants: "row" });
        if (carried.kind === "block") {
          for (const column of row.columns) {
            for (let at = 0; at <= column.blocks.length; at++)
              places.push({ parent: column.id, index: at, wants: "block" });
          }
        }
      }
      places.push({ parent: section.id, index: section.rows.length, wants: "row" });
    }
    if (email.sections.length === 0) places.push({ parent: null, index: 0, wants: "section" });
  }
  // Several blocks from here and there end up together, so every place changes something.
  if (carried.also && carried.also.length > 0) return places;
  const home = carried.id === undefined ? undefined : findNode(email, carried.id);
  if (!home) return places;
  const stays = (place: Place) =>
    place.parent === home.parent && (place.index === home.index || place.index === home.index + 1);
  const alone = home.kind === "block" ? loneRow(email, home.parent!) : undefined;
  const sameRow = (place: Place) =>
    alone !== undefined &&
    place.parent === alone.section &&
    (place.index === alone.index || place.index === alone.index + 1);
  return places.filter((place) => !stays(place) && !sameRow(place));
}

/** The next place after (or before) where a node stands, for moving it by keys; undefined at the end. */
export function nextPlace(
  email: Email,
  carried: Carried & { id: string },
  direction: 1 | -1,
): Place | undefined {
  const home = findNode(email, carried.id);
  if (!home) return undefined;
  const all = placesFor(email, { kind: carried.kind });
  const allowed = placesFor(email, carried);
  const start = all.findIndex((place) => place.parent === home.parent && place.index === home.index);
  for (let at = start + direction; at >= 0 && at < all.length; at += direction) {
    const place = all[at];
    if (allowed.some((one) => samePlace(one, place))) return place;
  }
  return undefined;
}

/** The row around a column when nothing else stands in it: moving its block next to it changes nothing. */
function loneRow(email: Email, columnId: string): { section: string; index: number } | undefined {
  const column = findNode(email, columnId);
  if (column?.kind !== "column" || column.node.blocks.length > 1) return undefined;
  const row = findNode(email, column.parent!);
  if (row?.kind !== "row" || row.node.columns.length > 1) return undefined;
  return { section: row.parent!, index: row.index };
}

/** Where a place is, in words: "after “Hold your beans”, in column 2". */
export function placeName(email: Email, place: Place): string {
  if (place.parent === null) {
    if (email.sections.length === 0) return "as the first section";
    return place.index === 0 ? "before all sections" : `after section ${place.index}`;
  }
  const parent = findNode(email, place.parent);
  if (parent?.kind === "section") {
    const { rows } = parent.node;
    if (rows.length === 0) return "in the empty section";
    return place.index === 0
      ? `above ${rowWords(email, rows[0].id)}`
      : `below ${rowWords(email, rows[place.index - 1].id)}`;
  }
  if (parent?.kind !== "column") return "here";
  const { blocks } = parent.node;
  const row = pathTo(email, place.parent).at(-2);
  const columns = row?.kind === "row" ? row.node.columns.length : 1;
  const where = columns > 1 ? `, in column ${parent.index + 1}` : "";
  if (blocks.length === 0) return columns > 1 ? `in empty column ${parent.index + 1}` : "in the empty row";
  return place.index === 0
    ? `before “${blockTitle(blocks[0])}”${where}`
    : `after “${blockTitle(blocks[place.index - 1])}”${where}`;
}

function rowWords(email: Email, rowId: string): string {
  const row = findNode(email, rowId);
  if (row?.kind !== "row") return "the row";
  if (row.node.name) return `“${row.node.name}”`;
  const first = row.node.columns.flatMap((column) => column.blocks)[0];
  return first ? `the row of “${blockTitle(first)}”` : "the empty row";
}

/** The nodes in reading order, for walking with arrow keys. */
export function readingOrder(email: Email): string[] {
  return [...walk(email)].filter((it) => it.kind === "block").map((it) => it.node.id);
}
