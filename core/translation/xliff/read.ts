import { type AnyNode, type Element, isTag, isText } from "domhandler";
import { parseDocument } from "htmlparser2";
import {
  type Either,
  type Email,
  type Inline,
  mapLines,
  type SaidThere,
  same,
  type Translated,
  typedLine,
  type Words,
} from "../../email";
import { baseOf, languageName } from "../languages";
import { type TranslatedUnit, translationState } from "../state";
import { languagesOf, unitWhere } from "../units";
import { type Codes, codeWords, lineOf, type Token } from "./codes";
import { type Flow, linesIn, unitFlow } from "./flows";
import { OUTDATED } from "./write";

/** A file that cannot be taken in, with a sentence that says why and what to do. */
export class XliffError extends Error {
  override name = "XliffError";
}

/** What a file from translators changes. */
export interface FromTranslators {
  language: string;
  /** The units that say something else than before, and what. */
  changes: { unit: TranslatedUnit; there: Translated }[];
  /** How many units of the file say what the design says already. */
  unchanged: number;
  /** What was not as it should be, each as a sentence. */
  problems: string[];
}

interface FileSegment {
  source: Token[];
  target: Token[] | null;
  state: string;
  subState: string;
}

const named = (name: string, nodes: readonly AnyNode[]): Element[] =>
  nodes.flatMap((node) => (isTag(node) && localName(node) === name ? [node] : []));
const localName = (element: Element) => element.name.slice(element.name.indexOf(":") + 1);
const inside = (name: string, nodes: readonly AnyNode[]): Element[] =>
  nodes.flatMap((node) =>
    !isTag(node) ? [] : localName(node) === name ? [node] : inside(name, node.children),
  );

/** The tokens of a source or a target; annotations are passed over, and what they hold is not. */
function tokensIn(nodes: readonly AnyNode[]): Token[] {
  const tokens: Token[] = [];
  const add = (text: string) => {
    if (text === "") return;
    if (typeof tokens.at(-1) === "string") tokens[tokens.length - 1] += text;
    else tokens.push(text);
  };
  for (const node of nodes) {
    if (isText(node)) add(node.data);
    if (!isTag(node)) continue;
    const { id = "", copyOf, hex = "" } = node.attribs;
    const code = copyOf ?? id;
    switch (localName(node)) {
      case "pc":
        tokens.push({ open: code }, ...tokensIn(node.children), { close: true });
        break;
      case "sc":
        tokens.push({ open: code });
        break;
      case "ec":
        tokens.push({ close: true });
        break;
      case "ph":
        tokens.push({ alone: code });
        break;
      case "mrk":
        for (const token of tokensIn(node.children)) {
          if (typeof token === "string") add(token);
          else tokens.push(token);
        }
        break;
      case "cp":
        add(String.fromCodePoint(Number.parseInt(hex, 16) || 0xfffd));
        break;
    }
  }
  return tokens;
}

function segmentsIn(unit: Element): Map<string, FileSegment> {
  const segments = new Map<string, FileSegment>();
  for (const [at, segment] of named("segment", unit.children).entries()) {
    const [source] = named("source", segment.children);
    const [target] = named("target", segment.children);
    segments.set(segment.attribs.id ?? `s${at + 1}`, {
      source: source ? tokensIn(source.children) : [],
      target: target ? tokensIn(target.children) : null,
      state: segment.attribs.state ?? "initial",
      subState: segment.attribs.subState ?? "",
    });
  }
  return segments;
}

type FileUnits = ReadonlyMap<string, ReadonlyMap<string, FileSegment>>;

/**
 * Reads a file from translators (XLIFF 2.0 or 2.1) against the design as it stands: what changes and what does not.
 * @throws XliffError when it is no such file, or is of another design or language
 */
export function readXliff(text: string, email: Email): FromTranslators {
  const root = inside("xliff", parseDocument(text, { xmlMode: true }).children)[0];
  if (!root)
    throw new XliffError("This is no XLIFF file. Take the words out here first, and bring that file back.");
  const { version = "", trgLang = "", srcLang = "" } = root.attribs;
  if (!/^2\./.test(version))
    throw new XliffError(
      `The file is XLIFF ${version || "of no version"}. Have it saved as XLIFF 2.0 or 2.1.`,
    );
  if (!/<\/([\w-]+:)?xliff\s*>\s*$/.test(text))
    throw new XliffError("The file ends in the middle. Have it sent again.");
  if (baseOf(srcLang) !== baseOf(email.language))
    throw new XliffError(
      `The file is a translation from ${languageName(srcLang)}; this design is in ${languageName(email.language)}.`,
    );
  const language = languagesOf(email).find((one) => one.toLowerCase() === trgLang.toLowerCase());
  if (!language)
    throw new XliffError(
      trgLang === ""
        ? "The file does not say which language it is in. Its “trgLang” is missing."
        : `The file is in ${languageName(trgLang)}, which this design is not in. Add that language first.`,
    );
  const units: FileUnits = new Map(
    inside("unit", root.children).map((unit) => [unit.attribs.id ?? "", segmentsIn(unit)]),
  );
  return compared(email, language, units);
}

function compared(email: Email, language: string, units: FileUnits): FromTranslators {
  const result: FromTranslators = { language, changes: [], unchanged: 0, problems: [] };
  const known = new Set<string>();
  for (const unit of translationState(email, language)) {
    const flow = unitFlow(unit);
    if (!flow) continue;
    for (const one of flowsIn(flow)) known.add(one.id);
    if (!units.has(flow.id)) continue;
    const where = `${unitWhere(email, unit)}, ${unit.label.toLowerCase()}`;
    const there = readUnit(unit, flow, units, (problem) => result.problems.push(`${where}: ${problem}`));
    if (there) result.changes.push({ unit, there });
    else result.unchanged++;
  }
  const strays = [...units.keys()].filter((id) => !known.has(id)).length;
  if (strays > 0)
    result.problems.push(
      `${strays === 1 ? "One text of the file is" : `${strays} texts of the file are`} no longer in the design, and left out.`,
    );
  return result;
}

function* flowsIn(flow: Flow): Generator<Flow> {
  yield flow;
  for (const flows of flow.under.values()) for (const one of flows) yield* flowsIn(one);
}

const DONE = new Set(["translated", "reviewed", "final"]);

/** What a unit says in the file; null where that changes nothing. */
function readUnit(
  unit: TranslatedUnit,
  flow: Flow,
  units: FileUnits,
  report: (problem: string) => void,
): Translated | null {
  const flows = [...flowsIn(flow)];
  const pairs = flows.flatMap((one) =>
    one.segments.map((segment) => ({ segment, given: units.get(one.id)?.get(segment.id) })),
  );
  const asBefore = pairs.every(({ segment, given }) => !given || same(wanted(given), segment.target));
  const confirmed =
    unit.state === "outdated" &&
    pairs.every(({ given }) => !given || (DONE.has(given.state) && given.subState !== OUTDATED));
  const sameSource = pairs.every(({ segment, given }) => !given || same(given.source, segment.source));
  if (asBefore && !(confirmed && sameSource)) return null;
  if (asBefore && unit.there) return { value: unit.there.value, of: unit.source };
  // A line that nobody translated leaves the whole as it was.
  if (flow.segments.every(({ id }) => !wanted(units.get(flow.id)?.get(id)))) return null;
  const value = saidBy(unit, flow, report, (one, id) => wanted(units.get(one.id)?.get(id)));
  const of = sameSource
    ? unit.source
    : saidBy(
        unit,
        flow,
        () => undefined,
        (one, id) => units.get(one.id)?.get(id)?.source ?? null,
      );
  return { value, of };
}

/** A target that says something: not one that a tool filled with the source and nobody touched. */
function wanted(given: FileSegment | undefined): Token[] | null {
  if (!given?.target || given.target.length === 0) return null;
  if (given.state === "initial" && given.subState !== OUTDATED && same(given.target, given.source))
    return null;
  return given.target;
}

/** What a unit says where each segment says what it is given, and else what it says there or in the design. */
function saidBy(
  unit: TranslatedUnit,
  flow: Flow,
  report: (problem: string) => void,
  given: (flow: Flow, segment: string) => Token[] | null,
): SaidThere {
  const lineIn = (one: Flow, id: string, otherwise: readonly Inline[]): Inline[] => {
    const segment = one.segments.find((it) => it.id === id);
    if (!segment) return [...otherwise];
    const tokens = given(one, id) ?? segment.target ?? segment.source;
    for (const lost of lostIn(tokens, segment.source, one.codes))
      report(`“${lost}” is missing in the translation.`);
    return lineOf(
      tokens,
      one.codes,
      (code, it) => {
        const cases = one.under.get(code);
        return it.type === "either" && cases ? withCaseWords(it, cases, lineIn) : it;
      },
      (code) => report(`the code “${code}” is not in the design, and left out.`),
    );
  };
  const source = linesIn(unit.kind, unit.source) ?? [];
  const there = unit.there && linesIn(unit.kind, unit.there.value);
  if (typeof unit.source === "string") {
    const line = lineIn(flow, "s1", source[0] ?? []);
    return typedLine(line) ?? unit.source;
  }
  const skeleton = (there?.length === source.length ? unit.there?.value : unit.source) as Words;
  return mapLines(skeleton, (line, at) => lineIn(flow, `s${at + 1}`, line)) as SaidThere;
}

function withCaseWords(
  it: Either<Inline>,
  flows: readonly Flow[],
  lineIn: (flow: Flow, id: string, otherwise: readonly Inline[]) => Inline[],
): Inline {
  const { cases, otherwise } = it.attrs;
  const words = (at: number, own: readonly Inline[]) => (flows[at] ? lineIn(flows[at], "s1", own) : [...own]);
  return {
    ...it,
    attrs: {
      cases: cases.map((one, at) => ({ ...one, words: words(at, one.words) })),
      otherwise: words(cases.length, otherwise),
    },
  };
}

/** The codes that stand in a source and not in its translation, as they are shown. */
function lostIn(tokens: readonly Token[], source: readonly Token[], { pieces }: Codes): string[] {
  const there = new Set(
    tokens.flatMap((token) => (typeof token === "object" && "alone" in token ? [token.alone] : [])),
  );
  return source.flatMap((token) => {
    if (typeof token === "string" || !("alone" in token) || there.has(token.alone)) return [];
    const piece = pieces.get(token.alone);
    return piece && piece.type !== "hardBreak" ? [codeWords(piece)] : [];
  });
}
