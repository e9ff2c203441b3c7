import type { JSONContent } from "@tiptap/core";
import type { Node as EditorNode } from "@tiptap/pm/model";
import {
  type Align,
  type Inline,
  InlineSchema,
  type Mark,
  notTooDeep,
  type RichDoc,
  RichDocSchema,
  type RichNode,
  TOGGLES,
  type Toggle,
  WordStyleSchema,
} from "~/core/email";

/** Between the document's rich text and the editor's, which knows more attributes than we keep. */

export function toEditor(doc: RichDoc): JSONContent {
  return { type: "doc", content: doc.content.map(node) };
}

export function inlineToEditor(content: readonly Inline[]): JSONContent {
  return {
    type: "doc",
    content: [content.length === 0 ? { type: "paragraph" } : { type: "paragraph", content: [...content] }],
  };
}

/** The same words where none of them may be a link. */
export const withoutLinks = (content: readonly Inline[]): Inline[] =>
  content.map((it) => (it.marks ? { ...it, marks: it.marks.filter(({ type }) => type !== "link") } : it));

function node(it: RichNode): JSONContent {
  if (it.type === "paragraph") return it.attrs?.align ? it : { type: "paragraph", content: it.content };
  return {
    type: it.type,
    content: it.content.map((item) => ({ type: "listItem", content: item.content.map(node) })),
  };
}

export function fromEditor(json: JSONContent): RichDoc {
  const content = nodes(json.content ?? []);
  return RichDocSchema.parse({
    type: "doc",
    content: content.length > 0 ? content : [{ type: "paragraph" }],
  });
}

/** All words of the document on one line, as headings and buttons hold them. */
export function inlineFromEditor(json: JSONContent): Inline[] {
  const lines = (json.content ?? []).map((paragraph) => inlines(paragraph.content ?? []));
  return lines.flatMap((line, index) => (index === 0 ? line : [{ type: "hardBreak" as const }, ...line]));
}

function nodes(content: readonly JSONContent[]): RichNode[] {
  return content.flatMap((it): RichNode[] => {
    if (it.type === "paragraph") {
      const words = inlines(it.content ?? []);
      const align = it.attrs?.align as Align | null | undefined;
      return [
        {
          type: "paragraph",
          ...(align && { attrs: { align } }),
          ...(words.length > 0 && { content: words }),
        },
      ];
    }
    if (it.type === "bulletList" || it.type === "orderedList") {
      return [
        {
          type: it.type,
          content: (it.content ?? []).map((item) => ({
            type: "listItem",
            content: nodes(item.content ?? []),
          })),
        },
      ];
    }
    return nodes(it.content ?? []);
  });
}

function inlines(content: readonly JSONContent[]): Inline[] {
  return content.flatMap((it): Inline[] => {
    const marks = (it.marks ?? []).flatMap((mark): Mark[] => {
      if (mark.type === "link") return [{ type: "link", attrs: { href: String(mark.attrs?.href ?? "") } }];
      if (mark.type === "style") {
        const given = Object.entries(mark.attrs ?? {}).filter(([, value]) => value !== null);
        const style = WordStyleSchema.safeParse(Object.fromEntries(given));
        return style.success && given.length > 0 ? [{ type: "style", attrs: style.data }] : [];
      }
      return (TOGGLES as readonly string[]).includes(mark.type) ? [{ type: mark.type as Toggle }] : [];
    });
    // A line break has no look of its own; only a link goes on across it.
    const kept = it.type === "hardBreak" ? marks.filter((mark) => mark.type === "link") : marks;
    const piece = {
      type: it.type,
      ...(it.type === "text" ? { text: it.text } : {}),
      ...(it.type === "mergeTag" ? { attrs: tagAttrs(it.attrs) } : {}),
      ...(it.type === "either" ? { attrs: it.attrs } : {}),
      ...(kept.length > 0 ? { marks: kept } : {}),
    };
    // What was pasted into an either/or may bring some along that would stand too deep.
    const pieces = piece.type === "either" ? notTooDeep([piece as Inline]) : [piece];
    return pieces.flatMap((one) => InlineSchema.safeParse(one).data ?? []);
  });
}

/** An editor has every attribute; a tag has another field only where one is named. */
function tagAttrs({ or, ...attrs }: Record<string, unknown> = {}): Record<string, unknown> {
  return or ? { ...attrs, or } : attrs;
}

/** What stands before and after a place in a text; empty lines at the cut go, `after` is null when nothing is left. */
export function partsAround(doc: EditorNode, at: number): { before: RichDoc; after: RichDoc | null } {
  const before = fromEditor(doc.cut(0, at).toJSON()).content;
  const after = fromEditor(doc.cut(at).toJSON()).content;
  const isEmpty = (it: RichNode | undefined) => it?.type === "paragraph" && (it.content ?? []).length === 0;
  if (before.length > 1 && isEmpty(before.at(-1))) before.pop();
  if (isEmpty(after[0])) after.shift();
  return {
    before: { type: "doc", content: before },
    after: after.length > 0 ? { type: "doc", content: after } : null,
  };
}
