import { expect, test } from "vitest";
import { valueAt, withValueAt } from "./paths";
import { DEFAULT_THEME, ThemeSchema } from "./theme";
import { THEME_PARTS, themeBounds } from "./theme-fields";

const fields = THEME_PARTS.flatMap((part) => part.fields);
/** Where a theme holds values, but for its name and its colours. */
function leaves(it: object, at = ""): string[] {
  return Object.entries(it).flatMap(([key, value]) =>
    typeof value === "object" ? leaves(value, `${at}${key}/`) : [`${at}${key}`],
  );
}

test("everything of a theme is set by one field", () => {
  const paths = fields.map(({ path }) => path);
  expect(new Set(paths).size).toBe(paths.length);
  const { light: _light, dark: _dark, id: _id, name: _name, ...rest } = DEFAULT_THEME;
  for (const path of leaves(rest)) expect(paths).toContain(path);
});

test.each(fields.filter(({ kind }) => /^(px|share|thousandths|weight)$/.test(kind)))(
  "$path is kept at its bounds, and not beyond",
  ({ path }) => {
    const { min, max } = themeBounds(path);
    expect(min).toBeLessThan(max);
    const fits = (value: number) => ThemeSchema.safeParse(withValueAt(DEFAULT_THEME, path, value)).success;
    expect([min - 1, min, max, max + 1].map(fits)).toEqual([false, true, true, false]);
  },
);

test("what is not set falls back on what there is", () => {
  for (const { path, usual } of fields) {
    const falls = typeof usual === "object" ? valueAt(DEFAULT_THEME, usual.as) : usual;
    expect(valueAt(DEFAULT_THEME, path) ?? falls).toBeDefined();
  }
});
