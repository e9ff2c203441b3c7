/** The email in pieces, with marks, as the canvas draws it: the frame once, and each block by itself. */
import type { Block, Email } from "../email";
import type { Ground, RenderContext } from "../markup";
import { escapeHtml, type Instruction, Pool, Writer } from "../program";
import { type CellWriter, type CompileOptions, sharedOf, writeBlockCell, writeSection } from "./compile";
import { headingLevels, type LevelCase } from "./levels";

/** Where a block of the canvas stands: what it needs to know of its surroundings. */
export interface Surroundings {
  /** Width of its column in px. */
  width: number;
  ground: Ground;
  /** Of its heading, by what a reader gets above it. */
  levels: readonly LevelCase[];
}

/** A part of the canvas, with the dark colours that its style block has to name. */
export interface Piece {
  pool: Pool;
  html: Instruction[];
  tones: ReadonlySet<string>;
}

/**
 * The canvas's frame: sections, rows and columns with marks, and an empty `<tr data-slot>` for each block, so that
 * blocks can be drawn one by one. `surroundings` says where each of them stands.
 */
export function compileFrame(
  email: Email,
  options: CompileOptions,
): Piece & {
  surroundings: Map<string, Surroundings>;
} {
  const pool = new Pool();
  const out = new Writer(pool);
  const surroundings = new Map<string, Surroundings>();
  const shared = sharedOf(email, options, true);
  const levels = headingLevels(email);
  const context: RenderContext = { ...shared, out, part: "html", width: options.theme.width };
  const slot: CellWriter = (block, { width, ground }) => {
    surroundings.set(block.id, { width, ground, levels: levels.get(block.id) ?? [{ level: 1 }] });
    out.raw(`<tr data-slot="${escapeHtml(block.id)}"></tr>`);
  };
  for (const section of email.sections) writeSection(section, context, slot);
  return { pool, html: out.finish(), surroundings, tones: shared.tones };
}

/** One block of the canvas, with marks: the `<tr>` that takes the place of its slot. */
export function compileBlock(
  block: Block,
  around: Surroundings,
  email: Email,
  options: CompileOptions,
): Piece {
  const pool = new Pool();
  const out = new Writer(pool);
  const shared = sharedOf(email, options, true);
  const { levels, ...standing } = around;
  writeBlockCell(block, { ...shared, ...standing, out, part: "html" }, new Map([[block.id, levels]]));
  return { pool, html: out.finish(), tones: shared.tones };
}
