import type { JSONContent } from "@tiptap/core";
import {
  type Inline,
  InlineSchema,
  type Mark,
  type RichDoc,
  RichDocSchema,
  type RichNode,
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
      return [words.length > 0 ? { type: "paragraph", content: words } : { type: "paragraph" }];
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
      return mark.type === "bold" ||
        mark.type === "italic" ||
        mark.type === "underline" ||
        mark.type === "strike"
        ? [{ type: mark.type }]
        : [];
    });
    const inline = InlineSchema.safeParse({
      type: it.type,
      ...(it.type === "text" ? { text: it.text } : {}),
      ...(it.type === "mergeTag" ? { attrs: it.attrs } : {}),
      ...(marks.length > 0 ? { marks } : {}),
    });
    return inline.success ? [inline.data] : [];
  });
}
