import { Mark } from "@tiptap/core";

declare module "@tiptap/core" {
  interface Commands<ReturnType> {
    scriptMarks: {
      toggleSuperscript(): ReturnType;
      toggleSubscript(): ReturnType;
    };
  }
}

/** Raised and lowered letters; one puts the other out. */
export const scriptMarks = (
  [
    ["superscript", "sup", "subscript", "Mod-."],
    ["subscript", "sub", "superscript", "Mod-,"],
  ] as const
).map(([name, tag, other, keys]) =>
  Mark.create({
    name,
    excludes: other,
    parseHTML: () => [{ tag }],
    renderHTML: ({ HTMLAttributes }) => [tag, { ...HTMLAttributes, style: "font-size:75%;line-height:0" }, 0],
    addKeyboardShortcuts() {
      return { [keys]: () => this.editor.commands.toggleMark(name) };
    },
  }),
);
