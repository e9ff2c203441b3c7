import { z } from "zod";
import { type Block, IdSchema, type Raw, SCHEMA_VERSION } from "../../email";
import { held, type Properties } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  /** The block as it was stored, untouched. */
  raw: held("As it was stored", z.unknown(), { fresh: null }),
  /** The schema it was written with. */
  written: held("Its schema", z.number().int(), { fresh: SCHEMA_VERSION }),
  /** What cannot be read in it. */
  why: held("What cannot be read", z.string(), { fresh: "It is empty." }),
} satisfies Properties;
export type UnreadableBlock = BlockOf<"unreadable", typeof properties>;

/** A block that this version cannot read: kept as it came, shown as such, and left out of messages. */
export const unreadable = declareBlock({
  type: "unreadable",
  label: "Unreadable block",
  group: "layout",
  words: "",
  properties,
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
});

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
