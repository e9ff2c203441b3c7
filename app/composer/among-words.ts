/** What is typed and pasted in the middle of a text and becomes blocks of its own, which part the text around them. */
import type { Editor } from "@tiptap/core";
import { type BlockTypeName, blockType, createBlock, wordsOf } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, findNode } from "~/core/email";
import { blocksFrom, type Piece } from "~/core/writing";
import type { CanvasHandle } from "./canvas/context";
import { spokenTo } from "./language";
import { make } from "./shelf-things";
import { type Composer, newId } from "./store";
import { inlineFromEditor, partsAround, toEditor } from "./text/convert";

export class AmongWords {
  constructor(
    private readonly store: Composer,
    private readonly canvas: CanvasHandle,
    private readonly announce: (text: string) => void,
  ) {}

  /** Adds a block where the `/` stands in the text being edited, which is split around it when it goes on. */
  addAtSlash(type: BlockTypeName): void {
    const { typed, editing, email } = this.store.getState();
    const editor = typed?.editor;
    const found = editing === null ? undefined : findNode(email, editing);
    if (!typed || !editor || found?.kind !== "block") return;
    editor.chain().deleteRange({ from: typed.from, to: typed.to }).run();
    const node = make({ kind: "block", type }, this.store.getState().facts.brand) as Block;
    const at = this.textBeingEdited();
    const parts = at && partsAround(editor.state.doc, editor.state.selection.from);
    const state = this.store.getState();
    state.edit(null);
    const done = parts
      ? state.apply(commands.splitText(found.node.id, parts.before, parts.after, [node], newId), "Adding")
      : state.apply(
          commands.insert(
            node,
            "block",
            { parent: found.parent, index: found.index + 1, wants: "block" },
            newId,
          ),
          "Adding",
        );
    if (!done) return;
    state.select(node.id);
    this.announce(`Added ${blockType(type)?.label}.`);
    requestAnimationFrame(() => {
      this.canvas.reveal(node.id);
      // Whoever writes goes on writing, in the new block's own words where it has any.
      const words = wordsOf(node)[0]?.path;
      if (words !== undefined && this.canvas.drawing?.wordsOf(node.id).includes(words))
        this.store.getState().edit(node.id, words, "all");
      else this.canvas.focus();
    });
  }

  /** The text block whose paragraphs are being written in, in the design's own language. */
  private textBeingEdited(): string | null {
    const { editing, email, editingKey } = this.store.getState();
    const found = editing === null ? undefined : findNode(email, editing);
    if (found?.kind !== "block" || found.node.type !== "text" || editingKey !== "content") return null;
    return spokenTo(this.store.getState()) === email.language ? found.node.id : null;
  }

  /** The paragraph with the cursor becomes a heading; what stands around it stays text. */
  becomeHeading(editor: Editor, level: 1 | 2 | 3): boolean {
    const id = this.textBeingEdited();
    if (id === null) return false;
    const { doc, selection } = editor.state;
    const { $from } = selection;
    const content = inlineFromEditor(doc.cut($from.pos, $from.end(1)).toJSON());
    const heading = { ...createBlock("heading", newId()), level, content } as Block;
    this.splitAround(id, editor, $from.before(1), $from.after(1), [heading], "Making a heading");
    requestAnimationFrame(() => this.store.getState().edit(heading.id, "content", "start"));
    return true;
  }

  /** Puts pieces of writing where the cursor stands: words into the text, all else as blocks of their own. */
  takePieces(editor: Editor, pieces: readonly Piece[]): void {
    const words = pieces.flatMap((piece) => (piece.kind === "words" ? piece.nodes : []));
    const id = this.textBeingEdited();
    if (id === null || pieces.every(({ kind }) => kind === "words")) {
      if (words.length > 0)
        editor
          .chain()
          .focus()
          .insertContent(toEditor({ type: "doc", content: words }).content ?? [])
          .run();
      return;
    }
    const { from, to } = editor.state.selection;
    const blocks = blocksFrom(pieces, newId);
    this.splitAround(id, editor, from, to, blocks, "Pasting");
    this.announce(`Added ${blocks.length === 1 ? "a block" : `${blocks.length} blocks`}.`);
    requestAnimationFrame(() => this.canvas.reveal(blocks[0].id));
  }

  /** Puts blocks in the place of a stretch of a text that is being edited. */
  private splitAround(
    id: string,
    editor: Editor,
    from: number,
    to: number,
    blocks: readonly Block[],
    label: string,
  ): void {
    const { doc } = editor.state;
    const { before } = partsAround(doc, from);
    const { after } = partsAround(doc, to);
    const isEmpty = before.content.every((it) => it.type === "paragraph" && !it.content?.length);
    const state = this.store.getState();
    state.edit(null);
    state.apply(commands.splitText(id, isEmpty ? null : before, after, blocks, newId), label);
    state.select(blocks[0].id);
  }
}
