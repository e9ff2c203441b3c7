import type { Editor } from "@tiptap/core";
import {
  BetweenHorizontalEnd,
  BetweenVerticalEnd,
  Bold,
  CornerDownLeft,
  Italic,
  Link2,
  List,
  ListOrdered,
  RemoveFormatting,
  Split,
  Strikethrough,
  Subscript,
  Superscript,
  TableColumnsSplit,
  TableRowsSplit,
  Underline,
  UserRound,
} from "lucide-react";
import { memo, startTransition, useEffect, useState } from "react";
import { completeHref } from "~/core/program";
import { Button, IconButton } from "../../ui/button";
import { Popover } from "../../ui/floating";
import { Labelled } from "../../ui/form";
import { HrefInput } from "../controls/href";
import { useComposerStore } from "../state/store";
import { editedCell, growTable, shrinkTable } from "../state/table-actions";
import { EmojiButton } from "./emoji";
import { askForData, putEither } from "./insert";
import { LookButton } from "./look-button";
import { useWritten } from "./writing";

/** What the bar shows of an editor: which marks, lists and looks there are at the cursor. */
function atCursor(editor: Editor): string {
  const { state } = editor;
  const { $from } = state.selection;
  const marks = Object.keys(state.schema.marks).flatMap((name) =>
    editor.isActive(name) ? [name, editor.getAttributes(name)] : [],
  );
  const around = Array.from({ length: $from.depth }, (_, depth) => $from.node(depth + 1));
  return JSON.stringify([marks, around.map(({ type, attrs }) => [type.name, attrs]), state.selection.empty]);
}

/** Follows an editor: what stands at its cursor is its own state. */
function useEditorChanges(editor: Editor | null): void {
  const [, changed] = useState("");
  useEffect(() => {
    // What is typed is painted first; which buttons are pressed may follow.
    const follow = () => editor && startTransition(() => changed(atCursor(editor)));
    editor?.on("transaction", follow);
    return () => void editor?.off("transaction", follow);
  }, [editor]);
}

/** Formats the words being edited. */
/** Narrower than this the bar would cover the name of the block, in px. */
const ROOM_FOR_BOTH = 540;

export const FormatBar = memo(function FormatBar({ below, room }: { below: boolean; room: number }) {
  const editor = useWritten((state) => state.editor);
  const store = useComposerStore();
  useEditorChanges(editor);
  if (!editor) return null;
  const lists = editor.schema.nodes.bulletList !== undefined;
  const marks = [
    {
      name: "bold",
      label: "Bold",
      keys: "Ctrl + B",
      icon: Bold,
      run: () => editor.chain().focus().toggleBold().run(),
    },
    {
      name: "italic",
      label: "Italic",
      keys: "Ctrl + I",
      icon: Italic,
      run: () => editor.chain().focus().toggleItalic().run(),
    },
    {
      name: "underline",
      label: "Underline",
      keys: "Ctrl + U",
      icon: Underline,
      run: () => editor.chain().focus().toggleUnderline().run(),
    },
    {
      name: "strike",
      label: "Strike through",
      keys: "Ctrl + Shift + S",
      icon: Strikethrough,
      run: () => editor.chain().focus().toggleStrike().run(),
    },
    {
      name: "superscript",
      label: "Superscript",
      keys: "Ctrl + .",
      icon: Superscript,
      run: () => editor.chain().focus().toggleSuperscript().run(),
    },
    {
      name: "subscript",
      label: "Subscript",
      keys: "Ctrl + ,",
      icon: Subscript,
      run: () => editor.chain().focus().toggleSubscript().run(),
    },
  ];
  return (
    <div
      role="toolbar"
      aria-label="Format the words"
      className={`pointer-events-auto absolute right-0 z-20 flex rounded-md border bg-paper shadow-md max-sm:fixed max-sm:inset-x-2 max-sm:top-auto! max-sm:bottom-26 max-sm:overflow-x-auto ${below ? "top-full mt-1.5" : room < ROOM_FOR_BOTH ? "-top-15.5" : "-top-9.5"}`}
      onPointerDown={(event) => event.stopPropagation()}
      onMouseDown={(event) => event.preventDefault()}
    >
      {marks.map(({ name, label, keys, icon: Icon, run }) => (
        <IconButton
          icon={Icon}
          key={name}
          label={label}
          keys={keys}
          pressed={editor.isActive(name)}
          className="size-7!"
          onClick={run}
        />
      ))}
      <LookButton editor={editor} />
      {editor.schema.marks.link && <LinkButton editor={editor} />}
      {lists && (
        <>
          <IconButton
            icon={List}
            label="List"
            pressed={editor.isActive("bulletList")}
            className="size-7!"
            onClick={() => editor.chain().focus().toggleBulletList().run()}
          />
          <IconButton
            icon={ListOrdered}
            label="Numbered list"
            pressed={editor.isActive("orderedList")}
            className="size-7!"
            onClick={() => editor.chain().focus().toggleOrderedList().run()}
          />
          <IconButton
            icon={CornerDownLeft}
            label="Line break without a gap"
            keys="Shift + Enter"
            className="size-7!"
            onClick={() => editor.chain().focus().setHardBreak().run()}
          />
        </>
      )}
      {editedCell(store) && <TableTools />}
      <IconButton
        icon={RemoveFormatting}
        label="Clear formatting"
        className="size-7!"
        onClick={() => editor.chain().focus().unsetAllMarks().run()}
      />
      <EmojiButton onChoose={(emoji) => editor.chain().focus().insertContent(emoji).run()} />
      <IconButton
        icon={UserRound}
        label="Reader data"
        keys="@"
        className="size-7! text-teal"
        onClick={() => askForData(editor)}
      />
      <IconButton
        icon={Split}
        label="Either/or: other words for some readers"
        className="size-7! text-teal"
        onClick={() => putEither(editor, store.getState().facts.words)}
      />
    </div>
  );
});

function LinkButton({ editor }: { editor: Editor }) {
  const [open, setOpen] = useState(false);
  const [href, setHref] = useState("");
  const keep = () => {
    const chain = editor.chain().focus().extendMarkRange("link");
    if (href.trim() === "") chain.unsetLink().run();
    else chain.setLink({ href: completeHref(href) }).run();
    setOpen(false);
  };
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || !event.shiftKey || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      setHref(String(editor.getAttributes("link").href ?? ""));
      setOpen(true);
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [editor]);
  return (
    <Popover
      className="w-80"
      open={open}
      onOpen={(next) => {
        if (next) setHref(String(editor.getAttributes("link").href ?? ""));
        setOpen(next);
      }}
      button={
        <IconButton
          icon={Link2}
          label="Link"
          keys="Ctrl + Shift + K"
          pressed={editor.isActive("link")}
          className="size-7!"
        />
      }
    >
      <form
        className="space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <Labelled label="Leads to" hint="Empty takes the link away.">
          <HrefInput autoFocus value={href} onChange={setHref} />
        </Labelled>
        <Button type="submit">Set the link</Button>
      </form>
    </Popover>
  );
}

/** Rows and columns of the table whose cell is being edited. */
function TableTools() {
  const store = useComposerStore();
  const tools = [
    { label: "Row below", icon: BetweenHorizontalEnd, run: () => growTable(store, "row", "after") },
    {
      label: "Column to the right",
      icon: BetweenVerticalEnd,
      run: () => growTable(store, "column", "after"),
    },
    { label: "Remove this row", icon: TableRowsSplit, run: () => shrinkTable(store, "row") },
    { label: "Remove this column", icon: TableColumnsSplit, run: () => shrinkTable(store, "column") },
  ];
  return tools.map(({ label, icon: Icon, run }) => (
    <IconButton icon={Icon} key={label} label={label} className="size-7!" onClick={run} />
  ));
}
