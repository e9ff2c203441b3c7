/** What can be said in another language: each place of a design with its own path. */
import { blockTitle, blockType, propertiesOf } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  ENVELOPE_LINES,
  eachPiece,
  linesOf,
  lineTyped,
  remembered,
  richText,
  type SaidThere,
  type Translated,
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

function* unitsIn(block: Block): Generator<Unit> {
  if (block.type === "unreadable") return;
  for (const { path, property, value, holder, label } of propertiesOf(block)) {
    const unit = (kind: UnitKind, source: unknown): Unit => ({
      block: block.id,
      path,
      kind,
      label,
      source: source as SaidThere,
    });
    const { kind } = property;
    if (kind === "line") yield unit(kind, value ?? []);
    else if (kind === "prose") yield unit(kind, value ?? richText());
    else if (typeof value !== "string") continue;
    else if (kind === "address") yield unit(kind, value);
    else if (kind === "text" && property.said) yield unit(kind, value);
    else if (kind === "picture") {
      const { natural } = holder;
      yield unit(kind, { src: value, ...(natural ? { natural } : {}) });
    }
  }
}

/** The units of a block in the order in which its properties are declared. */
export const unitsOfBlock: (block: Block) => readonly Unit[] = remembered((block) => [...unitsIn(block)]);

/** The units of the envelope. */
export const unitsOfEnvelope = ({ envelope }: Email): Unit[] =>
  ENVELOPE_LINES.filter(({ apart }) => !apart).map(({ path, label, of }) => ({
    block: null,
    path,
    kind: "line",
    label,
    source: [...of(envelope)],
  }));

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
export function unitWhere(email: Email, { block: id }: UnitName): string {
  const block = id === null ? undefined : blocksOf(email).find((it) => it.id === id);
  if (!block) return "Envelope";
  return `${blockType(block.type)?.label ?? "Block"} “${blockTitle(block)}”`;
}
