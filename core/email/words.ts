import type { Inline, RichDoc, RichNode } from "./rich";

/** Words that stand somewhere in a block: the dotted path to them, and what they say. */
export interface WordPlace {
  path: string;
  /** Paragraphs and line breaks as `\n`, each merge tag as one U+FFFC: offsets in it can be found again in an editor. */
  text: string;
}

const isInline = (it: unknown): it is Inline =>
  typeof it === "object" &&
  it !== null &&
  ["text", "hardBreak", "mergeTag"].includes((it as { type?: string }).type ?? "");

const isDoc = (it: unknown): it is RichDoc =>
  typeof it === "object" && it !== null && (it as { type?: string }).type === "doc";

function lineText(content: readonly Inline[]): string {
  return content
    .map((it) => (it.type === "text" ? it.text : it.type === "hardBreak" ? "\n" : "\ufffc"))
    .join("");
}

function docLines(nodes: readonly RichNode[]): string[] {
  return nodes.flatMap((node) =>
    node.type === "paragraph"
      ? [lineText(node.content ?? [])]
      : node.content.flatMap((item) => docLines(item.content)),
  );
}

/** All words of a block that a designer wrote, wherever they stand in it. */
export function wordPlaces(block: object): WordPlace[] {
  const found: WordPlace[] = [];
  const visit = (value: unknown, path: string) => {
    if (isDoc(value)) found.push({ path, text: docLines(value.content).join("\n") });
    else if (Array.isArray(value)) {
      if (value.length > 0 && value.every(isInline)) found.push({ path, text: lineText(value) });
      else for (const [index, one] of value.entries()) visit(one, `${path}.${index}`);
    } else if (typeof value === "object" && value !== null) {
      for (const [key, one] of Object.entries(value))
        if (key !== "show" && key !== "ownText") visit(one, path === "" ? key : `${path}.${key}`);
    }
  };
  visit(block, "");
  return found;
}

/** The same words with every line of them gone through a function: for a rich text each paragraph, else the line. */
export async function mapWords(
  words: unknown,
  change: (line: readonly Inline[]) => Promise<Inline[]>,
): Promise<unknown> {
  const node = async (it: RichNode): Promise<RichNode> => {
    if (it.type === "paragraph") return it.content ? { ...it, content: await change(it.content) } : it;
    const content = [];
    for (const item of it.content)
      content.push({ ...item, content: await Promise.all(item.content.map(node)) });
    return { ...it, content };
  };
  if (isDoc(words)) return { ...words, content: await Promise.all(words.content.map(node)) };
  return change(words as Inline[]);
}
