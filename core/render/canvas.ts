/** The email in pieces, with marks, as the canvas draws it: the frame once, and each block by itself. */
import type { Block, Email } from "../email";
import type { Ground, RenderContext } from "../markup";
import { escapeHtml, type Instruction, Tables, Writer } from "../program";
import { type CellWriter, type CompileOptions, sharedOf, writeBlockCell, writeSection } from "./compile";
import { headingLevels, type LevelCase } from "./levels";

/** Where a block of the canvas stands: what it needs to know of its surroundings. */
export interface Place {
  /** Width of its column in px. */
  width: number;
  ground: Ground;
  /** Of its heading, by what a reader gets above it. */
  levels: readonly LevelCase[];
}

/** A part of the canvas, with the dark colours that its style block has to name. */
export interface Piece {
  tables: Tables;
  html: Instruction[];
  tones: ReadonlySet<string>;
}

/**
 * The canvas's frame: sections, rows and columns with marks, and an empty `<tr data-slot>` for each block, so that
 * blocks can be drawn one by one. `places` says where each of them stands.
 */
export function compileFrame(email: Email, options: CompileOptions): Piece & { places: Map<string, Place> } {
  const tables = new Tables();
  const out = new Writer(tables);
  const places = new Map<string, Place>();
  const shared = sharedOf(email, options, true);
  const levels = headingLevels(email);
  const context: RenderContext = { ...shared, out, part: "html", width: options.theme.width };
  const slot: CellWriter = (block, { width, ground }) => {
    places.set(block.id, { width, ground, levels: levels.get(block.id) ?? [{ level: 1 }] });
    out.raw(`<tr data-slot="${escapeHtml(block.id)}"></tr>`);
  };
  for (const section of email.sections) writeSection(section, context, slot);
  return { tables, html: out.finish(), places, tones: shared.tones };
}

/** One block of the canvas, with marks: the `<tr>` that takes the place of its slot. */
export function compileBlock(block: Block, place: Place, email: Email, options: CompileOptions): Piece {
  const tables = new Tables();
  const out = new Writer(tables);
  const shared = sharedOf(email, options, true);
  const { levels, ...around } = place;
  writeBlockCell(block, { ...shared, ...around, out, part: "html" }, new Map([[block.id, levels]]));
  return { tables, html: out.finish(), tones: shared.tones };
}
