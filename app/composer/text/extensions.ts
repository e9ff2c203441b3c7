import { Extension, type Extensions, mergeAttributes, Node } from "@tiptap/core";
import StarterKit from "@tiptap/starter-kit";
import type { MergeTag } from "~/core/email";
import { type SlashHost, slashMenu } from "./slash";
import { paragraphAlign, wordStyle, wordToggles } from "./word-style";

/** What the editors ask of the composer around them. */
export interface EditorHost {
  /** The reader's words for a tag. */
  value(tag: MergeTag): string;
  /** `@` was typed, or a tag was clicked: choose reader data. */
  askTag(tag: MergeTag | null): void;
  undo(): void;
  redo(): void;
  leave(): void;
  /** Tab in a line of words: on to the next or back to the last words of the block. */
  step(direction: 1 | -1): boolean;
  /** Where `/` opens the add menu; without it a slash is a slash. */
  menu?: SlashHost;
}

const mergeTag = (host: EditorHost) =>
  Node.create({
    name: "mergeTag",
    group: "inline",
    inline: true,
    atom: true,
    selectable: true,
    addAttributes() {
      return { field: { default: "" }, fallback: { default: "" }, format: { default: "asIs" } };
    },
    parseHTML() {
      return [
        {
          tag: "span[data-merge-tag]",
          getAttrs: (element) => JSON.parse(element.getAttribute("data-merge-tag") ?? "{}") as MergeTag,
        },
      ];
    },
    renderHTML({ node }) {
      return [
        "span",
        mergeAttributes({ class: "reader-value", "data-merge-tag": JSON.stringify(node.attrs) }),
        host.value(node.attrs as MergeTag),
      ];
    },
    addNodeView() {
      return ({ node }) => {
        const dom = document.createElement("span");
        dom.className = "reader-value";
        dom.dataset.mergeTag = JSON.stringify(node.attrs);
        dom.textContent = host.value(node.attrs as MergeTag);
        dom.title = `Reader data: ${(node.attrs as MergeTag).field.replaceAll("_", " ")}`;
        dom.addEventListener("click", () => host.askTag(node.attrs as MergeTag));
        return { dom };
      };
    },
  });

const keys = (host: EditorHost, kind: EditorKind) =>
  Extension.create({
    name: "composerKeys",
    priority: 1000,
    addKeyboardShortcuts() {
      const leave = () => {
        host.leave();
        return true;
      };
      const softBreak = () => this.editor.commands.setHardBreak();
      const go = (direction: 1 | -1) => () => host.step(direction);
      return {
        "@": () => {
          host.askTag(null);
          return true;
        },
        "Mod-z": () => {
          host.undo();
          return true;
        },
        "Mod-Shift-z": () => {
          host.redo();
          return true;
        },
        "Mod-y": () => {
          host.redo();
          return true;
        },
        Escape: leave,
        ...(kind === "line" || kind === "plain" ? { Enter: leave, Tab: go(1), "Shift-Tab": go(-1) } : {}),
        ...(kind === "lines" ? { Enter: softBreak } : {}),
      };
    },
  });

/** `prose` has paragraphs and lists, `line` one line with marks, `plain` one without, `lines` several without. */
export type EditorKind = "prose" | "line" | "plain" | "lines";

/** The marks, lists and tags of our rich text; undo is the composer's. */
export function textExtensions(host: EditorHost, kind: EditorKind): Extensions {
  const plain = kind === "plain" || kind === "lines";
  const words = !plain && {};
  return [
    StarterKit.configure({
      heading: false,
      codeBlock: false,
      code: false,
      blockquote: false,
      horizontalRule: false,
      dropcursor: false,
      gapcursor: false,
      undoRedo: false,
      trailingNode: false,
      bulletList: kind === "prose" && {},
      orderedList: kind === "prose" && {},
      listItem: kind === "prose" && {},
      listKeymap: kind === "prose" && {},
      hardBreak: kind !== "plain" && {},
      bold: words,
      italic: words,
      underline: words,
      strike: words,
      link: plain
        ? false
        : {
            openOnClick: false,
            autolink: false,
            defaultProtocol: "https",
            HTMLAttributes: { target: null, rel: null },
          },
    }),
    mergeTag(host),
    ...(plain ? [] : [wordStyle, wordToggles]),
    ...(kind === "prose" ? [paragraphAlign] : []),
    ...(!plain && host.menu ? [slashMenu(host.menu)] : []),
    keys(host, kind),
  ];
}

/** Writes the reader's words into the tags of a mounted editor, after the reader has changed. */
export function refreshTags(dom: HTMLElement, host: EditorHost): void {
  for (const element of dom.querySelectorAll<HTMLElement>("[data-merge-tag]")) {
    element.textContent = host.value(JSON.parse(element.dataset.mergeTag ?? "{}") as MergeTag);
  }
}
