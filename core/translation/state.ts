import { blocksOf, type Email, isRichDoc, type SaidThere, same, type Translated } from "../email";
import { saysWords, translatedIn, type Unit, type UnitKind, unitsOfBlock, unitsOfEnvelope } from "./units";

/**
 * How far a unit is in a language: `missing` where words are still those of the design's own language, `outdated` where
 * these changed since, `done`, or `same` where nothing has to be said otherwise.
 */
export type UnitState = "missing" | "outdated" | "done" | "same";

export interface TranslatedUnit extends Unit {
  state: UnitState;
  /** What it says in the language; undefined where it says what the design does. */
  there: Translated | undefined;
}

/** Whether something can stand where a unit of a kind stands. */
export function fits(kind: UnitKind, value: SaidThere): boolean {
  if (kind === "prose") return isRichDoc(value);
  if (kind === "line") return Array.isArray(value);
  if (kind === "picture") return typeof value === "object" && "src" in value;
  return typeof value === "string";
}

function stateOf(unit: Unit, there: Translated | undefined): UnitState {
  const words = saysWords(unit.kind, unit.source);
  if (!there || !fits(unit.kind, there.value) || saysNothing(there.value)) return words ? "missing" : "same";
  return same(there.of, unit.source) ? "done" : "outdated";
}

/** Whether nothing at all stands there: then what the design says does. */
export function saysNothing(value: SaidThere): boolean {
  if (typeof value === "string") return value.trim() === "";
  if (isRichDoc(value))
    return value.content.every((node) => node.type === "paragraph" && !node.content?.length);
  return Array.isArray(value) && value.length === 0;
}

/** Every unit of an email in a language, with how far it is, in reading order. */
export function translationState(email: Email, language: string): TranslatedUnit[] {
  const of = (holder: Pick<Email, "translations">, units: readonly Unit[]) =>
    units.map((unit): TranslatedUnit => {
      const there = translatedIn(holder, unit, language);
      return { ...unit, there, state: stateOf(unit, there) };
    });
  return [
    ...of(email, unitsOfEnvelope(email)),
    ...blocksOf(email).flatMap((block) => of(block, unitsOfBlock(block))),
  ];
}

/** How many units are how far. */
export function progressOf(units: readonly Pick<TranslatedUnit, "state">[]): Record<UnitState, number> {
  const count = { missing: 0, outdated: 0, done: 0, same: 0 };
  for (const { state } of units) count[state]++;
  return count;
}
