import { z } from "zod";
import { type Inline, InlineSchema, inlineSigns } from "./inline";
import { AlignSchema } from "./primitives";

const ParagraphSchema = z.object({
  type: z.literal("paragraph"),
  attrs: z.object({ align: AlignSchema.nullish() }).optional(),
  content: z.array(InlineSchema).optional(),
});
export type Paragraph = z.infer<typeof ParagraphSchema>;

export type ListType = "bulletList" | "orderedList";
export type RichNode = Paragraph | { type: ListType; content: ListItem[] };
export type ListItem = { type: "listItem"; content: RichNode[] };

const ListItemSchema: z.ZodType<ListItem> = z.lazy(() =>
  z.object({ type: z.literal("listItem"), content: z.array(RichNodeSchema) }),
);
const RichNodeSchema: z.ZodType<RichNode> = z.lazy(() =>
  z.union([
    ParagraphSchema,
    z.object({ type: z.enum(["bulletList", "orderedList"]), content: z.array(ListItemSchema) }),
  ]),
);

export const RichDocSchema = z.object({ type: z.literal("doc"), content: z.array(RichNodeSchema) });
/** Paragraphs and lists. */
export type RichDoc = z.infer<typeof RichDocSchema>;

/** Whatever holds words: paragraphs and lists, or one line. */
export type Words = RichDoc | readonly Inline[];

export function isRichDoc(it: unknown): it is RichDoc {
  return typeof it === "object" && it !== null && (it as { type?: string }).type === "doc";
}

/** A paragraph of plain words. */
export function paragraphOf(...content: (string | Inline)[]): Paragraph {
  const inlines = content
    .filter((part) => part !== "")
    .map((part): Inline => (typeof part === "string" ? { type: "text", text: part } : part));
  return inlines.length === 0 ? { type: "paragraph" } : { type: "paragraph", content: inlines };
}

/** A document of one paragraph for each argument. */
export function richText(...paragraphs: (string | Paragraph)[]): RichDoc {
  return { type: "doc", content: paragraphs.map((it) => (typeof it === "string" ? paragraphOf(it) : it)) };
}

/** The lines of words in reading order: each paragraph's content, or the one line. */
export function linesOf(words: Words): readonly (readonly Inline[])[] {
  const inside = (nodes: readonly RichNode[]): (readonly Inline[])[] =>
    nodes.flatMap((node) =>
      node.type === "paragraph" ? [node.content ?? []] : node.content.flatMap((item) => inside(item.content)),
    );
  return isRichDoc(words) ? inside(words.content) : [words];
}

/** The words as text, lines parted by `\n`; offsets in it can be found again in an editor. */
export function wordSigns(words: Words): string {
  return linesOf(words).map(inlineSigns).join("\n");
}

/** The same words with every line gone through a function, which is told the line's number. */
export function mapLines(
  words: Words,
  change: (line: readonly Inline[], index: number) => readonly Inline[],
): Words {
  let next = 0;
  const node = (it: RichNode): RichNode => {
    if (it.type !== "paragraph")
      return { ...it, content: it.content.map((item) => ({ ...item, content: item.content.map(node) })) };
    const content = [...change(it.content ?? [], next++)];
    if (it.content === undefined && content.length === 0) return it;
    return { ...it, content };
  };
  return isRichDoc(words)
    ? { ...words, content: words.content.map(node) }
    : [...change(words as readonly Inline[], 0)];
}
