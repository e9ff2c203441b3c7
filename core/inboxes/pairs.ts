import { contrast, DISTINCT, over, READABLE } from "../color";
import { type ChildNode, Element, readPage } from "./page";
import { type Color, type Declarations, readColor, readDeclarations, readSheet } from "./style";

/** Words, or a face, and what they stand on. */
export interface Pair {
  /** The words, alternative text included; of a face the words on it. */
  words: string;
  kind: "words" | "face";
  color: string;
  ground: string;
  /** From 1 to 21 (WCAG 2.2, contrast ratio). */
  ratio: number;
  /** Whether the words are large: 24 px, or 18.66 px and bold (WCAG 2.2, "large scale"). */
  large: boolean;
  /** In px. */
  size: number;
  /** Whether a picture that is not shown says them. */
  alternative: boolean;
  /** The part of the design it stands in, where parts are marked. */
  node: string | null;
}

/** The contrast a pair needs (WCAG 2.2, 1.4.3 and 1.4.11). */
export function wanted({ kind, large }: Pair): number {
  return kind === "face" || large ? DISTINCT : READABLE;
}

interface Cascade {
  color: string;
  /** What is behind, all that can be seen through mixed. */
  ground: string;
  size: number;
  bold: boolean;
  hidden: boolean;
  /** The colour of its own edge; null without one. */
  edge: string | null;
  /** Whether it has a ground of its own. */
  faced: boolean;
  node: string | null;
  /** The classes of what it stands in. */
  classes: readonly string[];
}

type Rules = readonly { selector: string; declarations: Declarations }[];

/**
 * Every pair of words and ground in a page, in reading order, as a browser reckons them: inline styles, the page's own
 * rules by class, and what is inherited. Pictures behind words do not count, only the colour that stands in for them;
 * a picture without an address is its alternative text.
 * @param html a page as `asSeen` gives it
 */
export function pairsOf(html: string): Pair[] {
  const page = readPage(html);
  const pairs: Pair[] = [];
  const rules = rulesOf(page.children);
  const walk = (nodes: readonly ChildNode[], around: Cascade) => {
    for (const node of nodes) {
      if (node instanceof Element) {
        if (["head", "script", "style", "title"].includes(node.name)) continue;
        const own = within(node, around, rules);
        if (own.hidden) continue;
        if (node.name === "img") {
          if (node.attribs.src === undefined && node.attribs.alt)
            pairs.push({ ...pairOf("words", node.attribs.alt, own), alternative: true });
          continue;
        }
        const face = faceWords(node);
        if (face !== null && own.faced) {
          // An edge that stands out shows where the face ends as well as its colour does.
          const seen = own.edge && contrast(own.edge, around.ground) > contrast(own.ground, around.ground);
          const color = seen && own.edge ? own.edge : own.ground;
          pairs.push(pairOf("face", face, { ...own, color, ground: around.ground }));
        }
        walk(node.children, own);
      } else if (node.type === "text") {
        const words = node.data.replace(/(?:\s|\u00a0|\u200d|\u034f)+/g, " ").trim();
        if (words !== "") pairs.push(pairOf("words", words, around));
      }
    }
  };
  walk(page.children, {
    color: "#000000",
    ground: "#FFFFFF",
    size: 16,
    bold: false,
    hidden: false,
    edge: null,
    faced: false,
    node: null,
    classes: [],
  });
  return pairs;
}

function pairOf(kind: Pair["kind"], words: string, { color, ground, size, bold, node }: Cascade): Pair {
  const large = size >= 24 || (bold && size >= 18.66);
  const ratio = contrast(color, ground);
  return { kind, words, color, ground, ratio, large, size, node, alternative: false };
}

/** The words of a cell that is nothing but one link with a ground of its own: a button or a step of a scale. */
function faceWords(element: Element): string | null {
  if (element.name !== "td") return null;
  const children = element.children.filter((child) => !(child.type === "text" && child.data.trim() === ""));
  const [link] = children;
  if (children.length !== 1 || !(link instanceof Element) || link.name !== "a") return null;
  const words = textOf(link).trim();
  return words === "" ? null : words;
}

function textOf(node: ChildNode): string {
  if (node.type === "text") return node.data;
  return node instanceof Element ? node.children.map(textOf).join("") : "";
}

function rulesOf(nodes: readonly ChildNode[]): Rules {
  return nodes.flatMap((node): Rules => {
    if (!(node instanceof Element)) return [];
    if (node.name !== "style") return rulesOf(node.children);
    const css = node.children.map((child) => ("data" in child ? String(child.data) : "")).join("");
    return readSheet(css)[0].rules;
  });
}

const HEADINGS: Record<string, number> = { h1: 32, h2: 24, h3: 18.72, h4: 16, h5: 13.28, h6: 10.72 };

function within(element: Element, around: Cascade, rules: Rules): Cascade {
  const own: Cascade = { ...around, edge: null, faced: false };
  own.node = element.attribs["data-node"] ?? around.node;
  if (HEADINGS[element.name]) {
    own.size = HEADINGS[element.name];
    own.bold = true;
  }
  if (element.name === "strong" || element.name === "b" || element.name === "th") own.bold = true;
  if (element.name === "a" && element.attribs.href !== undefined) own.color = "#0000EE";
  let behind: Color | null = element.attribs.bgcolor ? readColor(element.attribs.bgcolor) : null;
  const classes = (element.attribs.class ?? "").split(/\s+/).filter((name) => name !== "");
  if (classes.length > 0) own.classes = [...around.classes, ...classes];
  const ruled = rules.filter(({ selector }) =>
    selector.split(",").some((one) => meant(one, element, classes, around.classes)),
  );
  const plain = [
    ...ruled.flatMap(({ declarations }) => declarations.filter(([, value]) => !/!important/.test(value))),
    ...readDeclarations(element.attribs.style ?? ""),
  ];
  const important = ruled.flatMap(({ declarations }) =>
    declarations.filter(([, value]) => /!important/.test(value)),
  );
  for (const [name, value] of [...plain, ...important]) {
    switch (name) {
      case "color":
        own.color = readColor(value)?.hex ?? own.color;
        break;
      case "background":
      case "background-color":
        behind = readColor(value) ?? behind;
        break;
      case "font-size":
        own.size = sizeOf(value, around.size) ?? own.size;
        break;
      case "font-weight":
        own.bold = value === "bold" || Number.parseInt(value, 10) >= 700;
        break;
      case "border":
        own.edge = readColor(/#[0-9a-f]{6}\b/i.exec(value)?.[0] ?? "")?.hex ?? null;
        break;
      case "border-color":
        if (own.edge) own.edge = readColor(value)?.hex ?? own.edge;
        break;
      case "opacity":
        own.hidden ||= Number.parseFloat(value) === 0;
        break;
      case "display":
        own.hidden = value.startsWith("none");
        break;
    }
  }
  own.faced = behind !== null;
  if (behind) own.ground = over(behind.hex, behind.density * 100, around.ground);
  return own;
}

/** Whether a selector means an element: an element, a class, both, an attribute it has, and a class around it. */
function meant(
  selector: string,
  element: Element,
  classes: readonly string[],
  around: readonly string[],
): boolean {
  const parts = selector.trim().split(/\s+/);
  const last = parts.pop() ?? "";
  if (parts.some((part) => !part.startsWith(".") || !around.includes(part.slice(1)))) return false;
  const [, name, ofClass, attribute] = /^([a-z]\w*)?(?:\.([\w-]+))?(?:\[([\w-]+)\])?$/i.exec(last) ?? [];
  if (name === undefined && ofClass === undefined && attribute === undefined) return false;
  return (
    (name === undefined || name === element.name) &&
    (ofClass === undefined || classes.includes(ofClass)) &&
    (attribute === undefined || element.attribs[attribute] !== undefined)
  );
}

function sizeOf(value: string, inherited: number): number | null {
  const number = Number.parseFloat(value);
  if (Number.isNaN(number)) return null;
  return /%/.test(value) ? (inherited * number) / 100 : number;
}
