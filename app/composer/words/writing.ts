/** What is being written: in which editor, what stands open beside the cursor, and what becomes of what is typed and pasted. */
import type { Editor } from "@tiptap/core";
import { createContext, useContext } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import { type BlockTypeName, blockType, createBlock, wordsOf } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, findNode } from "~/core/email";
import { blocksFrom, type Piece } from "~/core/writing";
import { spokenTo } from "../state/language";
import { make } from "../state/shelf-things";
import type { Stage } from "../state/stage";
import { type Composer, newId } from "../state/store";
import { growList } from "../state/table-actions";
import { inlineFromEditor, partsAround, toEditor } from "./convert";
import type { Typed } from "./typed";

/** Something in words that was pressed: its editor, its position there, and its box on the screen. */
export interface Chip {
  editor: Editor;
  at: number;
  place: DOMRect;
}

interface WritingState {
  /** That of the words being written on the canvas. */
  editor: Editor | null;
  /** The `/` or `@` being typed in a text, in which editor, and which entry of its menu is meant. */
  typed: (Typed & { editor: Editor }) | null;
  typedAt: number;
  /** The merge tag or the either/or that is open to be changed. */
  chip: Chip | null;
}

export class Writing {
  readonly state: StoreApi<WritingState> = createStore(() => ({
    editor: null,
    typed: null,
    typedAt: 0,
    chip: null,
  }));

  constructor(
    readonly store: Composer,
    private readonly stage: Stage,
    readonly announce: (text: string) => void,
  ) {}

  /** Adds a block where the `/` stands in the text being edited, which is split around it when it goes on. */
  addAtSlash(type: BlockTypeName): void {
    const { editing, email } = this.store.getState();
    const { typed } = this.state.getState();
    const editor = typed?.editor;
    const found = editing === null ? undefined : findNode(email, editing);
    if (!typed || !editor || found?.kind !== "block") return;
    editor.chain().deleteRange({ from: typed.from, to: typed.to }).run();
    const node = make({ kind: "block", type }, this.store.getState().facts) as Block;
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
      this.stage.reveal(node.id);
      // Whoever writes goes on writing, in the new block's own words where it has any.
      const words = wordsOf(node)[0]?.path;
      if (words !== undefined && this.stage.wordsOf(node.id).includes(words))
        this.store.getState().edit(node.id, words, "all");
      else this.stage.focus();
    });
  }

  /** Goes on to the next or previous words of the block being edited; at the end of a list it grows by one item. */
  stepWords(direction: 1 | -1): boolean {
    const { editing, editingKey, edit } = this.store.getState();
    if (editing === null) return false;
    const keys = this.stage.wordsOf(editing);
    const next = keys[keys.indexOf(editingKey) + direction];
    if (direction > 0 && growList(this.store)) return true;
    if (next !== undefined) edit(editing, next, "all");
    return true;
  }

  /** Ends the writing on the canvas; the keys are the canvas's again. */
  leave(): void {
    this.store.getState().edit(null);
    this.stage.focus();
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
    requestAnimationFrame(() => this.stage.reveal(blocks[0].id));
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

export const WritingContext = createContext<Writing | null>(null);

export function useWriting(): Writing {
  const writing = useContext(WritingContext);
  if (!writing) throw new Error("outside of a composer");
  return writing;
}

/** A part of what is being written; re-renders only when that part changes. */
export function useWritten<T>(select: (state: WritingState) => T): T {
  return useStore(useWriting().state, select);
}
