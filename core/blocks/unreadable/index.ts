import { z } from "zod";
import { type Block, BlockBaseSchema, IdSchema, type Raw, SCHEMA_VERSION } from "../../email";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("unreadable"),
  /** The block as it was stored, untouched. */
  raw: z.unknown(),
  /** The schema it was written with. */
  written: z.number().int(),
  /** What cannot be read in it. */
  why: z.string(),
});
export type UnreadableBlock = z.infer<typeof schema>;

/** A block that this version cannot read: kept as it came, shown as such, and left out of messages. */
export const unreadable: BlockType<UnreadableBlock> = {
  type: "unreadable",
  label: "Unreadable block",
  group: "layout",
  words: "",
  schema,
  create: (id) => ({ id, type: "unreadable", raw: null, written: SCHEMA_VERSION, why: "It is empty." }),
  places: () => [],
  html(block, { marks, out }) {
    if (!marks) return;
    out.raw('<div class="waiting">This block cannot be read, so it is kept as it is and not sent. ');
    out.escaped(block.why).raw("</div>");
  },
  text() {},
  title: (block) => `Unreadable block (${typeOf(block.raw)})`,
  unready: (block) => [
    `A block of the type “${typeOf(block.raw)}” cannot be read and is left out. Delete it, or open the design with the version that made it.`,
  ],
};

const typeOf = (raw: unknown): string => {
  const type = typeof raw === "object" && raw !== null ? (raw as Raw).type : undefined;
  return typeof type === "string" && type !== "" ? type.slice(0, 40) : "unknown";
};

/** Wraps what cannot be read, under its own id where it has a sound one. */
export function wrapUnreadable(raw: unknown, written: number, why: string, newId: () => string): Block {
  const id = typeof raw === "object" && raw !== null ? IdSchema.safeParse((raw as Raw).id) : undefined;
  return {
    id: id?.success ? id.data : newId(),
    type: "unreadable",
    raw,
    written,
    why,
  } satisfies UnreadableBlock;
}
