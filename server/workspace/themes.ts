/** Themes of the workspace's own: each change is a version of its own, and designs name the version they use. */
import { THEMES, type Theme, ThemeSchema } from "~/core/email";
import { type Use, usesOf } from "../mentions";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";
import { brandOf } from "./settings";

/** A theme of the workspace's own as it is now. */
export interface OwnTheme {
  id: string;
  version: number;
  theme: Theme;
}

const idOf = (ref: string) => ref.slice(0, ref.lastIndexOf("@"));

interface Row {
  id: string;
  version: number;
  theme: unknown;
  removed: boolean;
}

/** Every version of every theme, also of those put out of sight: designs may use them. */
function rows(septima: Septima): Promise<(OwnTheme & { removed: boolean })[]> {
  return cached(septima, "themes", async () => {
    const found = await septima.db.query<Row>(
      `select t.id, t.version, t.theme, r.id is not null as removed from themes t
       left join removed_themes r on r.id = t.id order by t.id, t.version`,
    );
    return found.map((row) => ({ ...row, theme: ThemeSchema.parse(row.theme) }));
  });
}

/** The workspace's own themes that can be chosen, each as it is now, by name. */
export async function ownThemes(septima: Septima): Promise<OwnTheme[]> {
  const newest = new Map<string, OwnTheme>();
  for (const { removed, ...row } of await rows(septima)) if (!removed) newest.set(row.id, row);
  return [...newest.values()].sort((a, b) => a.theme.name.localeCompare(b.theme.name));
}

/** All themes a design may name: those that come with the program, and every version of the workspace's own. */
export async function allThemes(septima: Septima): Promise<Theme[]> {
  return [...THEMES, ...(await rows(septima)).map(({ theme }) => theme)];
}

/** The id of the theme that stands for the house: the brand's; where it names none, that of the design changed last. */
export async function houseTheme(septima: Septima): Promise<string> {
  const { theme } = await brandOf(septima);
  if (theme !== undefined) return theme;
  const [last] = await septima.db.query<{ theme: string }>(
    "select email ->> 'theme' as theme from campaigns where deleted_at is null and kind = 'campaign' order by updated_at desc limit 1",
  );
  return last?.theme ?? "plain";
}

/**
 * Keeps a theme under a name: as a new one, or as the next version of one of the workspace's own.
 * @param of the theme it is a new version of; null for a new one
 * @throws Refusal when the name is taken, or the theme is gone
 */
export async function saveTheme(septima: Septima, theme: Theme, of: string | null): Promise<Theme> {
  const name = theme.name.trim();
  if (name === "") throw new Refusal("Give the theme a name.");
  const own = await ownThemes(septima);
  const taken = [
    ...THEMES.map((one) => ({ id: one.id, name: one.name })),
    ...own.map((one) => ({ id: one.id, name: one.theme.name })),
  ].find((one) => one.name.toLowerCase() === name.toLowerCase() && one.id !== (of && idOf(of)));
  if (taken) throw new Refusal(`There is a theme called “${name}” already. Choose another name.`, 409);
  const id = of === null ? septima.newId() : idOf(of);
  if (of !== null && !own.some((one) => one.id === id))
    throw new Refusal("This theme was deleted. Save it under a new name.", 409);
  const kept = await septima.db.transaction(async (tx) => {
    // The newest row is held, so that two who save at once get two versions.
    await tx.query("select 1 from themes where id = $1 for update", [id]);
    const [last] = await tx.query<{ version: number }>(
      "select coalesce(max(version), 0) as version from themes where id = $1",
      [id],
    );
    const version = last.version + 1;
    const next = ThemeSchema.parse({ ...theme, name, id: `${id}@${version}` });
    await tx.query("insert into themes (id, version, theme, created_at) values ($1, $2, $3::jsonb, $4)", [
      id,
      version,
      JSON.stringify(next),
      new Date(septima.now()),
    ]);
    return next;
  });
  septima.cache.delete("themes");
  return kept;
}

/** Puts a theme of the workspace's own out of sight, or brings it back. Designs that use it keep it. */
export async function setThemeRemoved(septima: Septima, ref: string, removed: boolean): Promise<void> {
  const id = idOf(ref);
  if (removed)
    await septima.db.query(
      "insert into removed_themes (id, deleted_at) select id, $2 from themes where id = $1 limit 1 on conflict do nothing",
      [id, new Date(septima.now())],
    );
  else await septima.db.query("delete from removed_themes where id = $1", [id]);
  septima.cache.delete("themes");
}

/** Where a theme of the workspace's own is used, in whichever of its versions. */
export async function themeUses(septima: Septima, ref: string): Promise<Use[]> {
  const versions = (await rows(septima)).filter(({ id }) => id === idOf(ref));
  return usesOf(
    septima.db,
    "theme",
    versions.map(({ theme }) => theme.id),
  );
}
