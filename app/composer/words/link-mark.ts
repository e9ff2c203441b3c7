import { Mark, mergeAttributes } from "@tiptap/core";
import { Plugin } from "@tiptap/pm/state";
import { leads } from "~/core/markup";
import { completeHref } from "~/core/program";

declare module "@tiptap/core" {
  interface Commands<ReturnType> {
    linkMark: {
      setLink(attributes: { href: string }): ReturnType;
      unsetLink(): ReturnType;
    };
  }
}

/** What is plainly an address when it is pasted alone. */
const ADDRESS = /^(https?:\/\/|mailto:|tel:)\S+$/i;

/** Links in words: typing behind one does not lengthen it, and an address pasted over words makes them one. */
export const linkMark = Mark.create({
  name: "link",
  // Around all other marks, so that one link is one element.
  priority: 1000,
  keepOnSplit: false,
  inclusive: false,
  exitable: true,
  addAttributes() {
    return { href: { default: "" } };
  },
  parseHTML() {
    return [
      {
        tag: "a[href]",
        getAttrs: (element) => {
          const href = element.getAttribute("href") ?? "";
          return leads(href) ? { href } : false;
        },
      },
    ];
  },
  renderHTML({ HTMLAttributes }) {
    return ["a", mergeAttributes(HTMLAttributes), 0];
  },
  addCommands() {
    return {
      setLink:
        ({ href }) =>
        ({ chain }) =>
          leads(href) && chain().setMark(this.name, { href }).run(),
      unsetLink:
        () =>
        ({ chain }) =>
          chain().unsetMark(this.name, { extendEmptyMarkRange: true }).run(),
    };
  },
  addProseMirrorPlugins() {
    return [
      new Plugin({
        props: {
          handlePaste: (view, event) => {
            const text = event.clipboardData?.getData("text/plain").trim() ?? "";
            if (view.state.selection.empty || !ADDRESS.test(text)) return false;
            return this.editor.commands.setLink({ href: completeHref(text) });
          },
        },
      }),
    ];
  },
});
