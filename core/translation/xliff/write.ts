import { type Email, hrefOfMarks, type Inline } from "../../email";
import { translationState } from "../state";
import { unitWhere } from "../units";
import { type Codes, codeWords, type Token } from "./codes";
import { type Flow, unitFlow } from "./flows";

const NAMESPACE = "urn:oasis:names:tc:xliff:document:2.0";
/** What a state of our own is called in a file (XLIFF 2.1, 4.3.1.32). */
export const OUTDATED = "septima:outdated";

/** Characters that XML cannot hold (XML 1.0, 2.2). */
const NO_XML = /[^\t\n\r\u{20}-\u{d7ff}\u{e000}-\u{fffd}\u{10000}-\u{10ffff}]/gu;
const xml = (text: string) =>
  text
    .replace(NO_XML, "")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");

/**
 * The words of an email for translators, in a language: XLIFF 2.1. What is missing has no target, what is outdated has
 * the one that was right; addresses may be given another, pictures are not in it.
 * @param name of the campaign
 */
export function writeXliff(email: Email, language: string, name: string): string {
  const units = translationState(email, language).flatMap((unit) => {
    const flow = unitFlow(unit);
    return flow ? flowXml(flow, unitWhere(email, unit)) : [];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<xliff xmlns="${NAMESPACE}" version="2.1" srcLang="${xml(email.language)}" trgLang="${xml(language)}">`,
    `<file id="f1" original="${xml(name)}">`,
    ...units,
    "</file>",
    "</xliff>",
    "",
  ].join("\n");
}

function flowXml(flow: Flow, place: string): string[] {
  const data = [...flow.codes.pieces].filter(([, it]) => it.type === "mergeTag");
  const state =
    flow.state === "done"
      ? ' state="translated"'
      : flow.state === "outdated"
        ? ` state="initial" subState="${OUTDATED}"`
        : ' state="initial"';
  const write = (tokens: readonly Token[]) => tokens.map((token) => tokenXml(token, flow)).join("");
  return [
    `<unit id="${xml(flow.id)}" name="${xml(flow.name)}" canResegment="no" xml:space="preserve">`,
    `<notes><note category="place">${xml(place)}</note></notes>`,
    ...(data.length === 0
      ? []
      : [
          `<originalData>${data.map(([id, it]) => `<data id="d.${id}">${xml(codeWords(it))}</data>`).join("")}</originalData>`,
        ]),
    ...flow.segments.map(
      ({ id, source, target }) =>
        `<segment id="${id}"${state}><source>${write(source)}</source>${target ? `<target>${write(target)}</target>` : ""}</segment>`,
    ),
    "</unit>",
    ...[...flow.under.values()]
      .flat()
      .flatMap((one) => (one.segments.length === 0 ? [] : flowXml(one, place))),
  ];
}

const FORMATS: Readonly<Record<string, string>> = {
  bold: "xlf:b",
  italic: "xlf:i",
  underline: "xlf:u",
};

function tokenXml(token: Token, { codes, under }: Flow): string {
  if (typeof token === "string") return xml(token);
  if ("close" in token) return "</pc>";
  if ("open" in token) return `<pc id="${token.open}"${pairedFacts(token.open, codes)}>`;
  const piece = codes.pieces.get(token.alone) as Inline;
  const shown = ` disp="${xml(codeWords(piece))}"`;
  if (piece.type === "hardBreak") return `<ph id="${token.alone}" type="fmt" subType="xlf:lb"/>`;
  if (piece.type === "mergeTag")
    return `<ph id="${token.alone}" type="other" dataRef="d.${token.alone}"${shown}/>`;
  const flows = (under.get(token.alone) ?? []).filter(({ segments }) => segments.length > 0);
  const subFlows = flows.length > 0 ? ` subFlows="${xml(flows.map(({ id }) => id).join(" "))}"` : "";
  return `<ph id="${token.alone}" type="other"${shown}${subFlows}/>`;
}

function pairedFacts(id: string, { marks }: Codes): string {
  const all = marks.get(id) ?? [];
  const href = hrefOfMarks({ marks: all });
  if (href !== undefined) return ` type="link" dispStart="${xml(href)}"`;
  const format = all.length === 1 ? FORMATS[all[0].type] : undefined;
  return ` type="fmt"${format ? ` subType="${format}"` : ""} dispStart="${xml(all.map(({ type }) => type).join(" "))}"`;
}
