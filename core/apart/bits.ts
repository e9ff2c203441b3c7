import type { Inline, RichNode } from "../email";
import type { Look } from "./look";

/** Words: a line by itself, or paragraphs and lists. */
type Said = { kind: "line"; content: Inline[]; level: number | null } | { kind: "words"; nodes: RichNode[] };

/** A thing of a letter that was taken apart, with how it looked. */
export type Bit = { look: Look } & (
  | Said
  | { kind: "quote"; nodes: RichNode[] }
  | {
      kind: "image";
      src: string;
      alt: string;
      href?: string;
      /** In px, as far as it says. */
      width: number | null;
      height: number | null;
      /** How much of its place it takes, in per cent. */
      share: number;
      radius: number;
      /** Whether it goes from one edge of the letter to the other. */
      edges: boolean;
    }
  /** Words that stand on a picture. */
  | {
      kind: "overlaid";
      src: string;
      alt: string;
      natural: { width: number; height: number } | null;
      /** In px; null where it does not say. */
      height: number | null;
      words: ({ look: Look } & Said)[];
    }
  | {
      kind: "button";
      content: Inline[];
      href: string;
      face: string | null;
      radius: number;
      /** Whether a line runs around it. */
      edge: boolean;
    }
  | { kind: "social"; items: { src: string; label: string; href: string }[]; size: number }
  | { kind: "menu"; items: { label: string; href: string }[] }
  | ({ kind: "table" } & Facts)
  | { kind: "divider"; color: string | null; thickness: number }
);

/** A table of facts. */
export interface Facts {
  rows: Inline[][][];
  header: boolean;
  /** Their widths by proportion, and how the words of each stand. */
  columns: { width: number; align: "left" | "center" | "right" }[];
}

/** One of the columns that stand side by side. */
export interface Side {
  /** Of the row, in per cent. */
  share: number;
  ground: string | null;
  bits: Bit[];
}

/** What stands on one ground from edge to edge: one thing below the other, or columns. */
export interface Band {
  /** Behind the content. */
  ground: string;
  /** Behind all of it, from one side of the window to the other. */
  outer: string;
  /** A picture behind it. */
  picture: string | null;
  sides: Side[];
}
