import { caseWordsOf, type Inline, linesOf, lineTyped, type SaidThere, type Words } from "../../email";
import type { TranslatedUnit, UnitState } from "../state";
import { type UnitKind, unitKey } from "../units";
import { type Codes, eithersIn, noCodes, type Token, tokensOf } from "./codes";

/** One line to translate: what it says, and what it says in the other language, if anything. */
interface Segment {
  id: string;
  source: Token[];
  target: Token[] | null;
}

/** A unit of the file: a unit of the design, or the words of one case of its either/ors. */
export interface Flow {
  id: string;
  /** What it is, for whoever translates. */
  name: string;
  state: UnitState;
  codes: Codes;
  segments: Segment[];
  /** The flows of its either/ors: by the id of its code, one for each case and one for everybody else. */
  under: Map<string, Flow[]>;
}

/** Words and texts as lines; null for what is no words. */
export function linesIn(kind: UnitKind, said: SaidThere): readonly (readonly Inline[])[] | null {
  if (kind === "picture") return null;
  return typeof said === "string" ? [lineTyped(said)] : linesOf(said as Words);
}

/** The flow of lines, and of all that differs in them. */
function flowOf(
  id: string,
  name: string,
  state: UnitState,
  source: readonly (readonly Inline[])[],
  target: readonly (readonly Inline[])[] | null,
): Flow {
  const codes = noCodes();
  const lines = (all: typeof source) => {
    const used = new Set<string>();
    return all.map((line) => tokensOf(line, codes, used));
  };
  const written = lines(source);
  const own = { marks: new Map(codes.marks), pieces: new Map(codes.pieces) };
  const there = target && lines(target);
  const segments = written.flatMap((tokens, at) =>
    tokens.length === 0 ? [] : [{ id: `s${at + 1}`, source: tokens, target: there?.[at] ?? null }],
  );
  // An either/or of the source is named alike in the translation, where its words are found.
  const others = eithersOf(target);
  const under = new Map(
    eithersIn(own).map(([code, it], which) => {
      const other = others[which];
      const written = caseWordsOf(it);
      const alike = other && caseWordsOf(other).length === written.length ? caseWordsOf(other) : null;
      return [
        code,
        written.map((words, at) => {
          const case_ = at < written.length - 1 ? `case ${at + 1}` : "everybody else";
          return flowOf(`${id}.${code}.${at}`, `${name}: ${case_}`, state, [words], alike && [alike[at]]);
        }),
      ];
    }),
  );
  return { id, name, state, codes, segments, under };
}

const eithersOf = (lines: readonly (readonly Inline[])[] | null) =>
  (lines ?? []).flatMap((line) => line.flatMap((it) => (it.type === "either" ? [it] : [])));

/** The id of a unit's flow in a file. */
const flowId = (unit: { block: string | null; path: string }): string =>
  `${unit.block ?? "envelope"}:${unitKey(unit)}`;

/** The flow of a unit; null where nothing in it can be written down for translators. */
export function unitFlow(unit: TranslatedUnit): Flow | null {
  const source = linesIn(unit.kind, unit.source);
  if (!source) return null;
  const target = unit.there ? linesIn(unit.kind, unit.there.value) : null;
  const flow = flowOf(flowId(unit), unit.label, unit.state, source, target);
  return flow.segments.length === 0 ? null : flow;
}
