import type { z } from "zod";
import type { Writer } from "../../program";
import type { Known } from "../tags";

/** What a piece of words is given to write itself. */
export interface InlineContext {
  out: Writer;
  part: "html" | "title" | "json" | "text" | "header";
  known: Known;
  /** Whether the canvas asks: then readers' values carry marks. */
  marks: boolean;
}

/** Everything the program knows about one kind of inline content. A new kind is one file beside this one. */
export interface InlineKind<T extends { type: string }, Piece = never> {
  schema: z.ZodType<T>;
  /** How it reads as plain words, for titles and lists. */
  words(it: T): string;
  /** What stands for it in a text whose offsets can be found again in an editor: as long as it is there. */
  sign(it: T): string;
  /**
   * Writes it into a part of the message, without its marks.
   * @param inner writes words that are in it, with theirs
   */
  write(it: T, context: InlineContext, inner: (words: readonly Piece[]) => void): void;
  /** Whether it is one thing that cannot be cut: not so words. */
  atom: boolean;
}
