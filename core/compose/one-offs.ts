/**
 * What in a design is not the theme's: colours, sizes, fonts, corners and edges that were chosen for one place. They
 * survive a change of theme; here they are found, told apart, and given back to the theme. What something says, how
 * wide it is, on which side it stands and how much room it has is no look of its own.
 */
import { BLOCK_TYPES, type BlockTypeName, blockType, wordsOf } from "../blocks";
import { differenceOf } from "../color";
import {
  type Block,
  type Email,
  isFillRole,
  type Kind,
  type Mark,
  mapLines,
  same,
  type Theme,
  walk,
} from "../email";
import { looksOf, NODE_PROPERTIES } from "../properties";
import { type Command, commands } from "./commands";

/** What a look of its own is about. */
export type LookKind = "words" | "ground" | "face" | "edge" | "size" | "font" | "corners" | "inside";

/** By the name of the property that holds it, as far as it is declared to be look. */
const KINDS: Readonly<Record<string, LookKind>> = {
  color: "words",
  background: "ground",
  contentBackground: "ground",
  face: "face",
  edge: "edge",
  border: "edge",
  size: "size",
  radius: "corners",
  padX: "inside",
  padY: "inside",
};
/** The same for single words. */
const OF_WORDS: Readonly<Record<string, LookKind>> = {
  color: "words",
  highlight: "ground",
  size: "size",
  font: "font",
};

/** A look that is not the theme's, and where it is. */
export interface OneOff {
  kind: LookKind;
  /** A colour, px, or a name, as words. */
  value: string;
  /** The nodes, in reading order; one twice when it has the look twice. */
  places: string[];
  /** The value of the theme that it differs from by so little that nobody means it; null when it differs clearly. */
  hair: string | null;
  /** One that is used more and differs from it by so little; null when there is none. */
  twin: { value: string; raw: string | number } | null;
}

/** What is looked for: one look, wherever it is. */
export type LookSought = Pick<OneOff, "kind" | "value">;

/** As much as two colours may differ (CIE76) and two sizes (px) before somebody means it. */
const HAIR = { color: 8, px: 2 };

/** All looks of their own in a design, those most used first. */
export function oneOffsOf(email: Email, theme: Theme): OneOff[] {
  const found = new Map<string, OneOff>();
  const raws = new Map<string, string | number>();
  const add = (id: string, kind: LookKind, raw: unknown) => {
    const value = written(raw);
    const known = found.get(`${kind} ${value}`);
    if (known) known.places.push(id);
    else
      found.set(`${kind} ${value}`, {
        kind,
        value,
        places: [id],
        hair: hairOf(kind, raw, theme),
        twin: null,
      });
    if (typeof raw === "string" || typeof raw === "number") raws.set(`${kind} ${value}`, raw);
  };
  for (const it of walk(email)) {
    const node = it.node as unknown as Json;
    for (const key of ownLooks(it.kind, node)) add(it.node.id, KINDS[key], node[key]);
    if (it.kind !== "block") continue;
    for (const { words } of styledWords(it.node))
      mapLines(words, (line) => {
        for (const { marks } of line)
          for (const [key, value] of Object.entries(styleOf(marks))) add(it.node.id, OF_WORDS[key], value);
        return line;
      });
  }
  const sorted = [...found.values()].sort((a, b) => b.places.length - a.places.length);
  const rawOf = ({ kind, value }: OneOff) => raws.get(`${kind} ${value}`);
  for (const [index, one] of sorted.entries()) {
    const twin = sorted
      .slice(0, index)
      .find((other) => other.kind === one.kind && near(rawOf(one), rawOf(other)));
    const raw = twin && rawOf(twin);
    if (twin && raw !== undefined) one.twin = { value: twin.value, raw };
  }
  return sorted;
}

/** Whether two looks differ by so little that nobody means it. */
function near(a: string | number | undefined, b: string | number | undefined): boolean {
  if (typeof a === "number" && typeof b === "number") return Math.abs(a - b) <= HAIR.px;
  const colours = [a, b].every((it) => typeof it === "string" && it.startsWith("#"));
  return colours && differenceOf(String(a), String(b)) <= HAIR.color;
}

/**
 * Gives one look of their own, or all, back to the theme, and leaves every character of what the design says.
 * @param instead what it becomes instead, a look of their own as well
 */
export const clearOneOffs =
  (sought?: LookSought, instead?: string | number): Command =>
  (edit) => {
    const meant = (kind: LookKind, value: unknown) =>
      !sought || (sought.kind === kind && sought.value === written(value));
    for (const it of walk(edit.email)) {
      const node = it.node as unknown as Json;
      const fresh = it.kind === "block" ? freshOf(it.node) : {};
      for (const key of ownLooks(it.kind, node))
        if (meant(KINDS[key], node[key])) edit.set(it.node.id, key, instead ?? fresh[key]);
      if (it.kind !== "block") continue;
      for (const { path, words } of styledWords(it.node)) {
        const themed = mapLines(words, (line) =>
          line.map((piece) => {
            if (!piece.marks?.some(isStyle)) return piece;
            const { marks, ...rest } = piece;
            const kept = marks.flatMap((mark) => withoutLooks(mark, meant, instead));
            return kept.length > 0 ? { ...rest, marks: kept } : rest;
          }),
        );
        commands.setAt(it.node.id, path, themed)(edit);
      }
    }
  };

type Json = Record<string, unknown>;
const isStyle = (mark: Mark) => mark.type === "style";
const styleOf = (marks: readonly Mark[] | undefined): Json => {
  const mark = marks?.find(isStyle);
  return mark?.type === "style" ? mark.attrs : {};
};

function withoutLooks(
  mark: Mark,
  meant: (kind: LookKind, value: unknown) => boolean,
  instead?: string | number,
): Mark[] {
  if (mark.type !== "style") return [mark];
  const kept = Object.entries(mark.attrs).flatMap(([key, value]) =>
    !meant(OF_WORDS[key], value) ? [[key, value]] : instead === undefined ? [] : [[key, instead]],
  );
  return kept.length > 0 ? [{ type: "style", attrs: Object.fromEntries(kept) }] : [];
}

function freshOf(block: Block): Json {
  if (!Object.hasOwn(BLOCK_TYPES, block.type)) return {};
  return BLOCK_TYPES[block.type as BlockTypeName].create(block.id) as unknown as Json;
}

/** The properties of a node that say something else than the theme. */
function ownLooks(kind: Kind, node: Json): string[] {
  const block = kind === "block" ? (node as unknown as Block) : undefined;
  const looks = (block && blockType(block.type)?.look) ?? looksOf(NODE_PROPERTIES[kind]);
  const fresh = block ? freshOf(block) : {};
  return Object.keys(KINDS).filter(
    (key) =>
      looks.includes(key) &&
      node[key] !== undefined &&
      !isFillRole(node[key]) &&
      !same(node[key], fresh[key]),
  );
}

/** The words of a block in which single ones have a look of their own. */
function styledWords(block: Block) {
  return wordsOf(block).filter(({ words }) => JSON.stringify(words).includes('"type":"style"'));
}

function written(value: unknown): string {
  if (typeof value === "number") return `${value} px`;
  if (typeof value === "string") return value.startsWith("#") ? value.toUpperCase() : value;
  const { width, style, color } = value as { width: number; style: string; color: string };
  return `${width} px ${style} ${color.toUpperCase()}`;
}

function hairOf(
  kind: LookKind,
  value: unknown,
  { light, text, headings, button, shape }: Theme,
): string | null {
  if (typeof value === "string" && value.startsWith("#")) {
    const [nearest] = Object.values(light).sort((a, b) => differenceOf(a, value) - differenceOf(b, value));
    return differenceOf(nearest, value) <= HAIR.color ? nearest : null;
  }
  if (typeof value !== "number") return null;
  const sizes: Partial<Record<LookKind, number[]>> = {
    size: [text.size, ...Object.values(headings).map(({ size }) => size), button.size],
    corners: [button.radius, shape.picture, shape.box],
    inside: [button.padX, button.padY],
  };
  const nearest = (sizes[kind] ?? []).find((one) => Math.abs(one - value) <= HAIR.px);
  return nearest === undefined ? null : `${nearest} px`;
}
