import { blockTitle, blockType } from "../blocks";
import { type Email, walk } from "../email";
import { type Instruction, Pool, Writer } from "../program";
import { type CompileOptions, sharedOf } from "./compile";
import { writeBlockText } from "./text";

/** A part of an email that is compared by itself. */
export interface TextPiece {
  /** The block; empty for a part of the envelope. */
  block: string;
  /** What it is called. */
  name: string;
  text: Instruction[];
}

/** An email's blocks one by one as their text, each for those who get it; for comparing what two readers get. */
export function compilePieces(email: Email, options: CompileOptions): { pool: Pool; pieces: TextPiece[] } {
  const pool = new Pool();
  const shared = { ...sharedOf(email, options, false), numbered: false };
  const around: (typeof email.sections)[number]["show"][] = [];
  const pieces: TextPiece[] = [];
  for (const it of walk(email)) {
    if (it.kind === "section") around.splice(0, 2, it.node.show, undefined);
    if (it.kind === "row") around[1] = it.node.show;
    if (it.kind !== "block") continue;
    const out = new Writer(pool);
    const [section, row] = around;
    out.when(section, () =>
      out.when(row, () =>
        out.when(it.node.show, () =>
          writeBlockText(it.node, { ...shared, out, part: "text", width: options.theme.width }),
        ),
      ),
    );
    const name = it.node.name ?? `${blockType(it.node.type)?.label ?? "Block"} “${blockTitle(it.node)}”`;
    pieces.push({ block: it.node.id, name, text: out.finish() });
  }
  return { pool, pieces };
}
