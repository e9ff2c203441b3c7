import { Extension, type Extensions, mergeAttributes, Node } from "@tiptap/core";
import { Bold } from "@tiptap/extension-bold";
import { Document } from "@tiptap/extension-document";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic } from "@tiptap/extension-italic";
import { BulletList } from "@tiptap/extension-list/bullet-list";
import { ListItem } from "@tiptap/extension-list/item";
import { ListKeymap } from "@tiptap/extension-list/keymap";
import { OrderedList } from "@tiptap/extension-list/ordered-list";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Strike } from "@tiptap/extension-strike";
import { Text } from "@tiptap/extension-text";
import { Underline } from "@tiptap/extension-underline";
import { NodeSelection } from "@tiptap/pm/state";
import { type Either, type Inline, InlineSchema, inlineText, type MergeTag } from "~/core/email";
import { TOGGLE_ELEMENTS } from "~/core/markup";
import type { Side } from "../state/table-actions";
import { NOTHING } from "../state/values";
import { type Becoming, becoming } from "./becoming";
import { linkMark } from "./link-mark";
import { scriptMarks } from "./script-marks";
import { type TypedHost, typedMenus } from "./typed";
import { paragraphAlign, wordStyle, wordToggles } from "./word-style";

/** What the editors ask of the composer around them. */
export interface EditorHost {
  /** The reader's words for a tag. */
  value(tag: MergeTag): string;
  /** The words that the reader gets of an either/or. */
  caseWords(it: Either<Inline>["attrs"]): readonly Inline[];
  /** A tag, or an either/or, was pressed, to be changed: its position in the document and its box on the screen. */
  openTag(at: number, place: DOMRect): void;
  undo(): void;
  redo(): void;
  leave(): void;
  /** Tab in a line of words: on to the next or back to the last words of the block. */
  step(direction: 1 | -1): boolean;
  /** An arrow at the edge of a cell: on to the one beside it. */
  beside?(side: Side): boolean;
  /** What is written or pasted among paragraphs and is more than they can hold becomes blocks of its own. */
  become?: Becoming;
  /** Whether `/` opens the add menu here. */
  slashes: boolean;
  typed: TypedHost;
}

const mergeTag = (host: EditorHost) =>
  Node.create({
    name: "mergeTag",
    group: "inline",
    inline: true,
    atom: true,
    selectable: true,
    addAttributes() {
      return {
        field: { default: "" },
        or: { default: "" },
        fallback: { default: "" },
        format: { default: "asIs" },
      };
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
      return ({ node, getPos }) => {
        const dom = document.createElement("span");
        dom.className = "reader-value";
        dom.dataset.mergeTag = JSON.stringify(node.attrs);
        dom.textContent = host.value(node.attrs as MergeTag);
        dom.title = `Reader data: ${(node.attrs as MergeTag).field.replaceAll("_", " ")}`;
        dom.addEventListener("click", () => {
          const at = getPos();
          if (at !== undefined) host.openTag(at, dom.getBoundingClientRect());
        });
        return { dom };
      };
    },
  });

/** An either/or stands there as the reader gets it. */
const either = (host: EditorHost) =>
  Node.create({
    name: "either",
    group: "inline",
    inline: true,
    atom: true,
    selectable: true,
    addAttributes() {
      return { cases: { default: [] }, otherwise: { default: [] } };
    },
    parseHTML() {
      return [
        {
          tag: "span[data-either]",
          getAttrs: (element) => {
            const read = eitherIn(element);
            return read === null ? false : { ...read };
          },
        },
      ];
    },
    renderHTML({ node }) {
      return [
        "span",
        mergeAttributes({ class: "reader-value", "data-either": JSON.stringify(node.attrs) }),
        inlineText([{ type: "either", attrs: node.attrs as Either<Inline>["attrs"] }]),
      ];
    },
    addNodeView() {
      return ({ node, getPos }) => {
        const dom = document.createElement("span");
        dom.className = "reader-value";
        dom.dataset.either = JSON.stringify(node.attrs);
        showCaseWords(dom, node.attrs as Either<Inline>["attrs"], host);
        dom.title = "Either/or: press it to see every case";
        dom.addEventListener("click", () => {
          const at = getPos();
          if (at !== undefined) host.openTag(at, dom.getBoundingClientRect());
        });
        // What is written into it is its own.
        return { dom, ignoreMutation: () => true };
      };
    },
  });

function eitherIn(element: HTMLElement): Either<Inline>["attrs"] | null {
  try {
    const attrs = JSON.parse(element.dataset.either ?? "") as unknown;
    const read = InlineSchema.safeParse({ type: "either", attrs });
    return read.success && read.data.type === "either" ? read.data.attrs : null;
  } catch {
    return null;
  }
}

/** Writes the words that the reader gets, with the marks that can be seen at a glance. */
function showCaseWords(dom: HTMLElement, attrs: Either<Inline>["attrs"], host: EditorHost): void {
  const write = (words: readonly Inline[], into: HTMLElement) => {
    for (const it of words) {
      let place = into;
      for (const mark of it.marks ?? []) {
        const name = mark.type === "link" ? "u" : mark.type === "style" ? null : TOGGLE_ELEMENTS[mark.type];
        if (name) place = place.appendChild(document.createElement(name));
      }
      if (it.type === "either") write(host.caseWords(it.attrs), place);
      else place.append(it.type === "text" ? it.text : it.type === "hardBreak" ? " " : host.value(it.attrs));
    }
  };
  dom.replaceChildren();
  write(host.caseWords(attrs), dom);
  if (dom.textContent === "") dom.textContent = NOTHING;
}

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
      const enter = () =>
        kind === "prose" || kind === "letter"
          ? false
          : kind === "lines" || kind === "cell"
            ? softBreak()
            : leave();
      /** An arrow that would lead out of the words leads to the cell beside. */
      const arrow = (side: Side) => () => {
        const { state, view } = this.editor;
        return state.selection.empty && view.endOfTextblock(side) && (host.beside?.(side) ?? false);
      };
      const go = (direction: 1 | -1) => () => host.step(direction);
      /** Enter on a tag opens it. */
      const press = () => {
        const { selection } = this.editor.state;
        if (
          !(selection instanceof NodeSelection) ||
          !["mergeTag", "either"].includes(selection.node.type.name)
        )
          return enter();
        const dom = this.editor.view.nodeDOM(selection.from);
        if (dom instanceof HTMLElement) host.openTag(selection.from, dom.getBoundingClientRect());
        return true;
      };
      return {
        Enter: press,
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
        ...(kind !== "prose" && kind !== "lines" && kind !== "letter"
          ? { Tab: go(1), "Shift-Tab": go(-1) }
          : {}),
        ...(kind === "cell"
          ? {
              ArrowUp: arrow("up"),
              ArrowDown: arrow("down"),
              ArrowLeft: arrow("left"),
              ArrowRight: arrow("right"),
            }
          : {}),
      };
    },
  });

/**
 * `prose` has paragraphs and lists, `line` one line with marks, `face` one that is a link as a whole, `cell` one of a
 * table, with line breaks, `plain` one without marks, `lines` several without; `letter` is paragraphs of plain words.
 */
export type EditorKind = "prose" | "line" | "face" | "cell" | "plain" | "lines" | "letter";

/** Whether words of a kind are plain: without looks. */
export const isPlain = (kind: EditorKind) => kind === "plain" || kind === "lines" || kind === "letter";

/** The marks, lists and tags of our rich text; undo is the composer's. */
export function textExtensions(host: EditorHost, kind: EditorKind): Extensions {
  const plain = isPlain(kind);
  return [
    Document,
    Paragraph,
    Text,
    ...(kind === "plain" ? [] : [HardBreak]),
    ...(kind === "prose" ? [BulletList, OrderedList, ListItem, ListKeymap] : []),
    mergeTag(host),
    either(host),
    ...(plain ? [] : [Bold, Italic, Underline, Strike, ...scriptMarks, wordStyle, wordToggles]),
    ...(plain || kind === "face" ? [] : [linkMark]),
    ...(kind === "prose" ? [paragraphAlign] : []),
    ...(kind === "prose" && host.become ? [becoming(host.become)] : []),
    typedMenus(host.typed, host.slashes && !plain ? ["/", "@"] : ["@"]),
    keys(host, kind),
  ];
}

/** Writes the reader's words into the tags of a mounted editor, after the reader has changed. */
export function refreshTags(dom: HTMLElement, host: EditorHost): void {
  for (const element of dom.querySelectorAll<HTMLElement>("[data-merge-tag]")) {
    element.textContent = host.value(JSON.parse(element.dataset.mergeTag ?? "{}") as MergeTag);
  }
  for (const element of dom.querySelectorAll<HTMLElement>("[data-either]")) {
    const attrs = eitherIn(element);
    if (attrs) showCaseWords(element, attrs, host);
  }
}
