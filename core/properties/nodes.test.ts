/** What nodes are declared to have is what the document's schema lets them have. */
import { describe, expect, test } from "vitest";
import { BlockBaseSchema, DEFAULT_THEME, type Kind, type Node, OWN_SCHEMAS } from "../email";
import { innerSpace, NODE_PROPERTIES, type Property, tooWide, usualOnPhones } from ".";

const SCHEMAS = {
  section: OWN_SCHEMAS.section.shape,
  row: OWN_SCHEMAS.row.shape,
  column: OWN_SCHEMAS.column.shape,
  block: BlockBaseSchema.shape,
} as const;

/** What nobody sets as a look or a name: what it is, who gets it, and what has commands of its own. */
const APART = ["id", "type", "show", "clipping", "phone", "off", "translations", "ownText", "picture"];

const KINDS = Object.keys(NODE_PROPERTIES) as Kind[];
const all = KINDS.flatMap((kind) =>
  Object.entries<Property>(NODE_PROPERTIES[kind]).map(([key, property]) => ({ kind, key, property })),
);

/** Values at the bounds of what may be, just beyond them, and of other kinds altogether. */
const TRIED: readonly unknown[] = [
  undefined,
  null,
  "",
  "x".repeat(120),
  "x".repeat(121),
  "#123456",
  "#12345",
  "red",
  ...["table", "accent", "heading", "paper", "top", "middle", "bottom", "phone", "desktop", "both", "stack"],
  ...["reverse", "beside", "left"],
  ...[-1, 0, 1, 60, 319, 320, 700, 701, 400, 401, 0.5],
  true,
  ...[0, 400, 401].map((side) => ({ top: side, right: 1, bottom: 2, left: 3 })),
  ...[0, 1, 20, 21].map((width) => ({ width, style: "solid", color: "#123456" })),
  { width: 1, style: "double", color: "#123456" },
];

describe("what is declared", () => {
  test.each(KINDS)("is all that a %s has to be set", (kind) => {
    const kept = Object.keys(SCHEMAS[kind]).filter((key) => !APART.includes(key));
    // How wide a column is, is the business of its row.
    const expected = kind === "column" ? kept.filter((key) => key !== "width") : kept;
    expect(Object.keys(NODE_PROPERTIES[kind]).sort()).toEqual(expected.sort());
  });

  test.each(all)("may be what the document takes: $key of a $kind", ({ kind, key, property }) => {
    const schema = (SCHEMAS[kind] as Record<string, Property["schema"]>)[key];
    for (const value of TRIED)
      expect([value, property.schema.safeParse(value).success]).toEqual([
        value,
        schema.safeParse(value).success,
      ]);
  });
});

describe("inner space", () => {
  const row = (padding?: object): Node => ({ kind: "row", node: { id: "r", columns: [], ...padding } });
  const theme = { ...DEFAULT_THEME, space: { ...DEFAULT_THEME.space, inset: 32, section: 11 } };

  test("is the theme’s where nothing is said, and becomes less beside rows on phones", () => {
    expect(innerSpace(row(), theme)).toEqual({ top: 0, right: 32, bottom: 0, left: 32 });
    expect(usualOnPhones(row(), theme)).toEqual({ top: 0, right: 20, bottom: 0, left: 20 });
    expect(innerSpace({ kind: "section", node: { id: "s", rows: [] } }, theme)).toMatchObject({ top: 11 });
  });

  test("of one’s own is kept where there is room for it", () => {
    const padding = { top: 60, right: 20, bottom: 60, left: 0 };
    expect(usualOnPhones(row({ padding }), theme)).toEqual(padding);
    expect(tooWide({ ...padding, right: 21 })).toBe(true);
    expect(usualOnPhones(row({ padding: { ...padding, right: 21 } }), theme)).toMatchObject({
      left: 20,
      right: 20,
      top: 60,
    });
    const column: Node = {
      kind: "column",
      node: { id: "c", width: 100, blocks: [], padding: { ...padding, left: 90 } },
    };
    expect(usualOnPhones(column, theme)).toMatchObject({ left: 90 });
  });
});
