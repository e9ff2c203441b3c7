/** What can be said in another language: each place of a design with its own path. */
import { blockTitle, blockType } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  type Envelope,
  eachPiece,
  linesOf,
  lineTyped,
  picturesIn,
  richText,
  type SaidThere,
  type Translated,
  valueAt,
  type Words,
} from "../email";

export type UnitKind = "prose" | "line" | "text" | "address" | "picture";

/** A place that can say something else in each language. */
export interface Unit {
  /** The block it is in; null for the envelope. */
  block: string | null;
  /** From the block, or from the envelope. */
  path: string;
  kind: UnitKind;
  /** What it is, for whoever translates. */
  label: string;
  /** What it says in the design's own language. */
  source: SaidThere;
}

/** Where a unit stands among all, as what is kept of it is named. */
export interface UnitName {
  block: string | null;
  path: string;
}

/** The key of a translation: its path without the slashes that paths into it are cut at. */
export const unitKey = ({ path }: Pick<UnitName, "path">): string => path.replaceAll("/", ".");

const ENVELOPE: readonly { path: string; label: string; of: (envelope: Envelope) => SaidThere }[] = [
  { path: "subject", label: "Subject", of: ({ subject }) => subject },
  { path: "preheader", label: "Preheader", of: ({ preheader }) => preheader },
  { path: "sender/name", label: "Sender’s name", of: ({ sender }) => sender.name },
];

const WORD_LABELS: Readonly<Record<string, string>> = {
  greeting: "Greeting",
  role: "Role",
  low: "Lowest answer",
  high: "Highest answer",
  caption: "Caption",
  terms: "Terms",
};

function* unitsIn(block: Block): Generator<Unit> {
  const type = blockType(block.type);
  if (!type || block.type === "unreadable") return;
  const { id } = block;
  for (const { path, kind } of type.places(block)) {
    const source = (valueAt(block, path) ?? (kind === "prose" ? richText() : [])) as SaidThere;
    const last = path.split("/").at(-1) as string;
    yield { block: id, path, kind, label: WORD_LABELS[last] ?? "Words", source };
  }
  for (const { path, label } of type.texts?.(block) ?? []) {
    const source = valueAt(block, path);
    if (typeof source === "string") yield { block: id, path, kind: "text", label, source };
  }
  for (const { path, picture } of picturesIn(block)) {
    const { src, alt, natural, decorative } = picture as {
      src: string;
      alt?: unknown;
      natural?: object;
      decorative?: boolean;
    };
    if (typeof alt === "string" && !decorative)
      yield { block: id, path: `${path}alt`, kind: "text", label: "Alternative text", source: alt };
    const source = { src, ...(natural && { natural }) } as SaidThere;
    yield { block: id, path: `${path}src`, kind: "picture", label: "Picture", source };
  }
  for (const link of type.links?.(block) ?? []) {
    const source = link.path === null ? undefined : valueAt(block, link.path);
    if (link.path !== null && typeof source === "string")
      yield { block: id, path: link.path, kind: "address", label: "Address of the link", source };
  }
}

const known = new WeakMap<Block, readonly Unit[]>();

/** The units of a block in reading order: words first, then texts, pictures and addresses. */
export function unitsOfBlock(block: Block): readonly Unit[] {
  let units = known.get(block);
  if (!units) {
    units = [...unitsIn(block)];
    known.set(block, units);
  }
  return units;
}

/** The units of the envelope. */
export const unitsOfEnvelope = ({ envelope }: Email): Unit[] =>
  ENVELOPE.map(({ path, label, of }) => ({ block: null, path, kind: "line", label, source: of(envelope) }));

/** All units of an email in reading order. */
export function unitsOf(email: Email): Unit[] {
  return [...unitsOfEnvelope(email), ...blocksOf(email).flatMap(unitsOfBlock)];
}

/** The languages a design is there in besides its own, in the order of their tags. */
export const languagesOf = ({ translations }: Pick<Email, "translations">): string[] =>
  Object.keys(translations ?? {}).sort();

/** What stands at a unit in the design's own language; undefined when there is no such unit any more. */
export function sourceOf(email: Email, { block: id, path }: UnitName): SaidThere | undefined {
  const block = id === null ? undefined : blocksOf(email).find((it) => it.id === id);
  const units = block ? unitsOfBlock(block) : id === null ? unitsOfEnvelope(email) : [];
  return units.find((unit) => unit.path === path)?.source;
}

/** What is kept of a unit in a language. */
export function translationOf(email: Email, unit: UnitName, language: string): Translated | undefined {
  const holder = unit.block === null ? email : blocksOf(email).find(({ id }) => id === unit.block);
  return translatedIn(holder, unit, language);
}

/** The same where its block, or the email for the envelope, is at hand. */
export const translatedIn = (
  holder: Pick<Email, "translations"> | undefined,
  unit: Pick<UnitName, "path">,
  language: string,
): Translated | undefined => holder?.translations?.[language]?.[unitKey(unit)];

const LETTER = /\p{L}/u;

/** Whether there are words in it that somebody has to translate: not only tags, signs and figures. */
export function saysWords(kind: UnitKind, source: SaidThere): boolean {
  if (kind === "address" || kind === "picture") return false;
  const lines = typeof source === "string" ? [lineTyped(source)] : linesOf(source as Words);
  return lines.some((line) => [...eachPiece(line)].some((it) => it.type === "text" && LETTER.test(it.text)));
}

/** Where a unit stands, as a sentence names it. */
export function unitPlace(email: Email, { block: id }: UnitName): string {
  const block = id === null ? undefined : blocksOf(email).find((it) => it.id === id);
  if (!block) return "Envelope";
  return `${blockType(block.type)?.label ?? "Block"} “${blockTitle(block)}”`;
}
