/** Removing what designs and selections may use: it says by what it is used, and can be taken back. */
import { audienceChanged } from "../audience/answers";
import { refuseSameName } from "../audience/groups";
import { type Use, usesOf } from "../mentions";
import { usesOfPicture } from "../pictures/uses";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { setThemeRemoved, themeUses } from "./themes";

/** Where each kind is, which is put out of sight by when it was; a theme has versions, and is put away by its name. */
const TABLES = {
  source: "sources",
  segment: "segments",
  list: "lists",
  picture: "pictures",
  clipping: "clippings",
} as const;
export const REMOVABLE = ["source", "segment", "list", "picture", "clipping", "theme"] as const;
export type Removable = (typeof REMOVABLE)[number];

/** By what it is used. */
export function usesOfRemovable(septima: Septima, kind: Removable, id: string): Promise<Use[]> {
  if (kind === "picture") return usesOfPicture(septima, id);
  return kind === "theme" ? themeUses(septima, id) : usesOf(septima.db, kind, [id]);
}

/**
 * Puts something out of sight, or brings it back.
 * @throws Refusal (404) when there is none
 */
export async function setRemoved(
  septima: Septima,
  kind: Removable,
  id: string,
  removed: boolean,
): Promise<void> {
  if (kind === "theme") return setThemeRemoved(septima, id, removed);
  if (kind === "list" && !removed) {
    const [list] = await septima.db.query<{ name: string }>("select name from lists where id = $1", [id]);
    if (list) await refuseSameName(septima.db, id, list.name);
  }
  const rows = await septima.db.query(
    `update ${TABLES[kind]} set deleted_at = $2 where id = $1 and (deleted_at is null) = $3 returning id`,
    [id, removed ? new Date(septima.now()) : null, removed],
  );
  if (rows.length === 0) throw new Refusal(`This ${kind} does not exist any more.`, 404);
  if (kind === "segment" || kind === "list") audienceChanged(septima);
}
