import { type CommandProps, Extension, Mark } from "@tiptap/core";
import { toggleMark } from "@tiptap/pm/commands";
import { fontStack, type Toggle, type WordStyle } from "~/core/email";

declare module "@tiptap/core" {
  interface Commands<ReturnType> {
    wordStyle: {
      /** Sets parts of the look of the selected words; `undefined` gives a part back to the theme. */
      setWordStyle(style: WordStyle): ReturnType;
    };
    paragraphAlign: {
      setAlign(align: "left" | "center" | "right" | null): ReturnType;
    };
  }
}

const KEYS = ["color", "highlight", "size", "font"] as const;

function styleText({ color, highlight, size, font }: WordStyle): string {
  return [
    color && `color:${color}`,
    highlight && `background-color:${highlight}`,
    size && `font-size:${size}px;line-height:1.5`,
    font && `font-family:${fontStack(font)}`,
  ]
    .filter(Boolean)
    .join(";");
}

/** Colour, highlight, size and font of single words, as one mark. */
export const wordStyle = Mark.create({
  name: "style",
  addAttributes: () => Object.fromEntries(KEYS.map((key) => [key, { default: null }])),
  parseHTML: () => [
    {
      tag: "span[data-word-style]",
      getAttrs: (element) => JSON.parse(element.getAttribute("data-word-style") ?? "{}") as WordStyle,
    },
  ],
  renderHTML: ({ mark }) => [
    "span",
    { "data-word-style": JSON.stringify(mark.attrs), style: styleText(mark.attrs as WordStyle) },
    0,
  ],
  addCommands: () => ({
    setWordStyle:
      (style) =>
      ({ chain, editor }) => {
        const now = editor.getAttributes("style") as Record<string, unknown>;
        const next = { ...Object.fromEntries(KEYS.map((key) => [key, now[key] ?? null])), ...style };
        const left = KEYS.some((key) => next[key] !== null && next[key] !== undefined);
        return left ? chain().setMark("style", next).run() : chain().unsetMark("style").run();
      },
  }),
});

const LOGICAL: Record<string, string> = { left: "start", right: "end" };
const ALIGNED: Record<string, string> = {
  left: "left",
  start: "left",
  center: "center",
  right: "right",
  end: "right",
};

/** Alignment of single paragraphs. */
export const paragraphAlign = Extension.create({
  name: "paragraphAlign",
  addGlobalAttributes: () => [
    {
      types: ["paragraph"],
      attributes: {
        align: {
          default: null,
          parseHTML: (element) => ALIGNED[element.style.textAlign] ?? null,
          // Where words begin and end is meant, in whichever direction the language runs.
          renderHTML: ({ align }) => (align ? { style: `text-align:${LOGICAL[align] ?? align}` } : {}),
        },
      },
    },
  ],
  addCommands: () => ({
    setAlign:
      (align) =>
      ({ commands }) =>
        commands.updateAttributes("paragraph", { align }),
  }),
});

/**
 * Marks switched on and off with merge tags counted as words: a bold tag can be made plain again, and words that are
 * part bold become bold before they become plain.
 */
export const wordToggles = Extension.create({
  name: "wordToggles",
  // Below the marks themselves, so that these commands take the place of theirs.
  priority: 1,
  addCommands() {
    const toggle =
      (name: Toggle) =>
      () =>
      ({ state, dispatch }: CommandProps) =>
        toggleMark(state.schema.marks[name], null, { removeWhenPresent: false })(state, dispatch);
    return {
      toggleBold: toggle("bold"),
      toggleItalic: toggle("italic"),
      toggleUnderline: toggle("underline"),
      toggleStrike: toggle("strike"),
      toggleSuperscript: toggle("superscript"),
      toggleSubscript: toggle("subscript"),
    };
  },
});
