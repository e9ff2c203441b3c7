/** The email in pieces, with marks, as the canvas draws it: the frame of each section, and each block by itself. */
import type { Block, Email, Section } from "../email";
import type { Ground } from "../markup";
import { escapeHtml, type Instruction, Pool, Writer } from "../program";
import { type CellWriter, type CompileOptions, sharedOf, writeBlockCell, writeSection } from "./compile";
import { headingLevels, type LevelCase } from "./levels";

/** Where a block of the canvas stands. */
export interface Standing {
  /** Width of its column in px. */
  width: number;
  ground: Ground;
}

/** What it needs to know of its surroundings. */
export interface Surroundings extends Standing {
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
 * The canvas's frame of one section: it, its rows and its columns with marks, and an empty `<tr data-slot>` for each
 * block, so that blocks can be drawn one by one. `standing` says where each of them stands; only the levels of headings
 * hang on other sections, see `headingLevels`.
 */
export function compileFrame(
  section: Section,
  email: Email,
  options: CompileOptions,
): Piece & { standing: Map<string, Standing> } {
  const pool = new Pool();
  const out = new Writer(pool);
  const standing = new Map<string, Standing>();
  const shared = sharedOf(email, options, true);
  const slot: CellWriter = (block, { width, ground }) => {
    standing.set(block.id, { width, ground });
    out.raw(`<tr data-slot="${escapeHtml(block.id)}"></tr>`);
  };
  writeSection(section, { ...shared, out, part: "html", width: options.theme.width }, slot);
  return { pool, html: out.finish(), standing, tones: shared.tones };
}

const FIRST: readonly LevelCase[] = [{ level: 1 }];

/** What a block needs to know of where it stands. */
export const surroundingsOf = (
  id: string,
  standing: Standing,
  levels: ReturnType<typeof headingLevels>,
): Surroundings => ({ ...standing, levels: levels.get(id) ?? FIRST });

/** Where all blocks of a design stand. */
export function everySurroundings(email: Email, options: CompileOptions): Map<string, Surroundings> {
  const levels = headingLevels(email);
  return new Map(
    email.sections.flatMap((section) =>
      [...compileFrame(section, email, options).standing].map(([id, standing]): [string, Surroundings] => [
        id,
        surroundingsOf(id, standing, levels),
      ]),
    ),
  );
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
