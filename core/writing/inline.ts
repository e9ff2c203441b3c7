import { type ChildNode, type Element, isTag, isText } from "domhandler";
import { type Inline, type Mark, same, type Toggle } from "../email";
import { broughtHref } from "../program";

/** What elements do to their words by what they are. */
export const MARK_OF: Readonly<Record<string, Toggle | undefined>> = {
  b: "bold",
  strong: "bold",
  i: "italic",
  em: "italic",
  cite: "italic",
  u: "underline",
  ins: "underline",
  s: "strike",
  strike: "strike",
  del: "strike",
  sup: "superscript",
  sub: "subscript",
};

/** Things whose content is no writing. */
export const SILENT = new Set(
  "script style template noscript head title meta link iframe object svg math".split(" "),
);

/** The value of one property of a `style` attribute, in small letters; empty when it is not there. */
export function styleOf(element: Element, property: string): string {
  const style = element.attribs.style ?? "";
  const match = new RegExp(`(?:^|;)\\s*${property}\\s*:\\s*([^;]+)`, "i").exec(style);
  return match?.[1].trim().toLowerCase() ?? "";
}

/** The marks an element puts on its words, by what it is and by what its style says. */
function marksOf(element: Element, around: readonly Mark[]): readonly Mark[] {
  const set = new Map<string, Mark>(around.map((mark) => [mark.type, mark]));
  const plain = MARK_OF[element.name];
  if (plain) set.set(plain, { type: plain });
  const weight = styleOf(element, "font-weight");
  if (/^(bold|bolder|[6-9]00)$/.test(weight)) set.set("bold", { type: "bold" });
  else if (/^(normal|lighter|[1-4]00)$/.test(weight)) set.delete("bold");
  const slant = styleOf(element, "font-style");
  if (/^(italic|oblique)/.test(slant)) set.set("italic", { type: "italic" });
  else if (slant === "normal") set.delete("italic");
  const line = styleOf(element, "text-decoration") || styleOf(element, "text-decoration-line");
  if (/underline/.test(line) && element.name !== "a") set.set("underline", { type: "underline" });
  if (/line-through/.test(line)) set.set("strike", { type: "strike" });
  const href = element.name === "a" ? broughtHref(element.attribs.href ?? "") : null;
  if (href !== null) set.set("link", { type: "link", attrs: { href } });
  return [...set.values()];
}

/** The words inside nodes with their marks; spaces and line ends count as one space, as browsers have it. */
export function inlinesOf(nodes: readonly ChildNode[], around: readonly Mark[] = []): Inline[] {
  return tidy(collect(nodes, around));
}

function collect(nodes: readonly ChildNode[], around: readonly Mark[]): Inline[] {
  return nodes.flatMap((node): Inline[] => {
    if (isText(node)) {
      const text = node.data.replace(/[\t\n\f\r ]+/g, " ");
      return text === "" ? [] : [word(text, around)];
    }
    if (!isTag(node) || SILENT.has(node.name) || styleOf(node, "mso-list") === "ignore") return [];
    if (node.name === "br") return [{ type: "hardBreak" }];
    return collect(node.children, marksOf(node, around));
  });
}

function word(text: string, marks: readonly Mark[]): Inline {
  return marks.length > 0 ? { type: "text", text, marks: [...marks] } : { type: "text", text };
}

/** Joins neighbours that look the same and takes away the spaces that no reader would see. */
export function tidy(content: readonly Inline[]): Inline[] {
  const joined: Inline[] = [];
  let spaced = true;
  for (const it of content) {
    if (it.type !== "text") {
      trimEnd(joined);
      joined.push(it);
      spaced = it.type === "hardBreak";
      continue;
    }
    const text = spaced ? it.text.replace(/^ +/, "") : it.text;
    if (text === "") continue;
    spaced = text.endsWith(" ");
    const last = joined.at(-1);
    if (last?.type === "text" && same(last.marks, it.marks))
      joined[joined.length - 1] = { ...last, text: last.text + text };
    else joined.push({ ...it, text });
  }
  trimEnd(joined);
  while (joined.at(-1)?.type === "hardBreak") joined.pop();
  while (joined[0]?.type === "hardBreak") joined.shift();
  return joined;
}

function trimEnd(content: Inline[]): void {
  const last = content.at(-1);
  if (last?.type !== "text") return;
  const text = last.text.replace(/ +$/, "");
  if (text === "") content.pop();
  else content[content.length - 1] = { ...last, text };
}
