import { blockType } from "../blocks";
import type { Block, Email, Inline } from "../email";
import { Pool, Writer } from "../program";
import { type CompileOptions, sharedOf } from "./compile";
import { wordsFrom } from "./words-from";

/**
 * What the design gives for a block in the plain-text part, as words that can be edited; null where live content
 * stands, which changes with its source.
 */
export function blockText(block: Block, email: Email, options: CompileOptions): Inline[] | null {
  const pool = new Pool();
  const out = new Writer(pool);
  const shared = sharedOf(email, options, false);
  blockType(block.type)?.text(block, { ...shared, out, part: "text", width: options.theme.width });
  const instructions = out.finish();
  if (instructions.some(({ op }) => op === "item")) return null;
  const words = wordsFrom(instructions, pool);
  while (words.at(-1)?.type === "hardBreak") words.pop();
  return words;
}
