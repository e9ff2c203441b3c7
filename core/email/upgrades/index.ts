/**
 * Older designs brought forward, on the raw JSON, one schema after the other. What a schema changed in the document
 * itself stands here; what it changed in a block's own properties stands in the block's folder.
 */
import { SCHEMA_VERSION } from "../document";

/** JSON of which nothing is known yet. */
export type Raw = Record<string, unknown>;

/** By the schema it leads to: what changed, and how the document is brought there. */
const CHANGES: Record<number, { about: string; document?(email: Raw): Raw }> = {
  2: {
    about:
      "Items within blocks (links, pictures, rows and columns of tables) have ids; parts of articles are switched off as those of all blocks.",
  },
  3: {
    about: "Blocks of articles are lists by rule; items have an arrangement, facts and badges.",
  },
};

/** A design that cannot be read as a whole, with a sentence that says why. */
export class UnreadableDesign extends Error {
  override name = "UnreadableDesign";
}

const isRaw = (it: unknown): it is Raw => typeof it === "object" && it !== null && !Array.isArray(it);
const list = (it: unknown): unknown[] => (Array.isArray(it) ? it : []);

/** Goes through the blocks of a raw design, wherever its other parts are sound. */
export function mapRawBlocks(email: Raw, change: (block: unknown) => unknown): Raw {
  const inside = (node: unknown, lists: readonly string[]): unknown => {
    const [key, ...deeper] = lists;
    if (key === undefined) return change(node);
    if (!isRaw(node) || !Array.isArray(node[key])) return node;
    return { ...node, [key]: list(node[key]).map((child) => inside(child, deeper)) };
  };
  return inside(email, ["sections", "rows", "columns", "blocks"]) as Raw;
}

/** The schema a raw design was written with. */
function schemaOf(json: unknown): number {
  return isRaw(json) && typeof json.schema === "number" ? json.schema : 1;
}

/**
 * Brings a raw design to the present schema, except for its blocks: those know themselves how (see `core/blocks`).
 * @returns the design, and the schema its blocks were written with
 * @throws UnreadableDesign when a newer program wrote it
 */
export function upgraded(json: unknown): { email: unknown; from: number } {
  const from = schemaOf(json);
  if (!isRaw(json)) return { email: json, from };
  if (from > SCHEMA_VERSION)
    throw new UnreadableDesign(
      `This design was made by a newer version of Septima (its schema is ${from}, this one reads up to ${SCHEMA_VERSION}). Update Septima to open it.`,
    );
  let email = json;
  for (let to = from + 1; to <= SCHEMA_VERSION; to++) email = CHANGES[to]?.document?.(email) ?? email;
  return { email: { ...email, schema: SCHEMA_VERSION }, from };
}
