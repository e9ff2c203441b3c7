import type { Editor } from "@tiptap/core";
import { Split } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { createPortal } from "react-dom";
import { BLOCK_TYPES, type BlockTypeName } from "~/core/blocks";
import { isPictureTag, type ReaderDatum, readerData, tagOf } from "../../readers/reader-data";
import { counted } from "../../ui/time";
import { blockIcon } from "../controls/block-icon";
import { type ComposerState, useComposer } from "../state/store";
import { around, NOTHING, tagWords } from "../state/values";
import { insertLink, insertTag, putEither, takesEither } from "./insert";
import type { Typed } from "./typed";
import { useWriting, useWritten, type Writing } from "./writing";

/** The block types that what was typed after the slash may mean, those whose name begins so first. */
function blocksFor(query: string): BlockTypeName[] {
  const wanted = query.trim().toLowerCase();
  const rank = (name: BlockTypeName) => {
    const { label, words } = BLOCK_TYPES[name];
    if (label.toLowerCase().startsWith(wanted)) return 0;
    return `${label} ${words}`.toLowerCase().includes(wanted) ? 1 : 2;
  };
  return (Object.keys(BLOCK_TYPES) as BlockTypeName[])
    .filter((name) => !BLOCK_TYPES[name].fixed && rank(name) < 2)
    .sort((a, b) => rank(a) - rank(b));
}

type Entry =
  | { key: string; block: BlockTypeName }
  | { key: string; datum: ReaderDatum }
  | { key: "either"; either: true };

/** Words by which an either/or is found, too. */
const EITHER = /^(ei|or|if|ca|wor|dif|var)/i;
const either = (query: string): Entry[] =>
  query.trim() === "" || EITHER.test(query.trim()) ? [{ key: "either", either: true }] : [];

function entriesFor(typed: Typed & { editor: Editor }, { facts }: Pick<ComposerState, "facts">): Entry[] {
  return typed.sign === "/"
    ? blocksFor(typed.query).map((block) => ({ key: block, block }))
    : [
        ...readerData(facts, typed.query).map((datum) => ({
          key: datum.key,
          datum,
        })),
        ...(takesEither(typed.editor) ? either(typed.query) : []),
      ];
}

function take(entry: Entry, writing: Writing): void {
  const { typed } = writing.state.getState();
  if (!typed) return;
  if ("block" in entry) writing.addAtSlash(entry.block);
  else if ("either" in entry) putEither(typed.editor, writing.store.getState().facts.words, typed);
  else {
    const { said, href } = entry.datum;
    if (said && href) insertLink(typed.editor, typed, said, href);
    else insertTag(typed.editor, typed, tagOf(entry.datum), href);
    writing.announce("Inserted. Press Enter on it to change it.");
  }
}

/** What a key does while the menu is open; true when it was used. */
export function pressTypedKey(writing: Writing, key: string): boolean {
  const { typed, typedAt } = writing.state.getState();
  const found = typed ? entriesFor(typed, writing.store.getState()) : [];
  if (found.length === 0) return false;
  if (key === "ArrowDown" || key === "ArrowUp") {
    writing.state.setState({
      typedAt: (typedAt + (key === "ArrowDown" ? 1 : -1) + found.length) % found.length,
    });
    return true;
  }
  if (key !== "Enter" && key !== "Tab") return false;
  take(found[Math.min(typedAt, found.length - 1)], writing);
  return true;
}

/**
 * The menu at the cursor. The keys stay with the text; this only shows what they would choose. By hand for that reason:
 * the library of `ui/choose.tsx` hears keys in a field of its own.
 */
export default function CursorMenu() {
  const typed = useWritten((state) => state.typed);
  const facts = useComposer((state) => state.facts);
  const at = useWritten((state) => state.typedAt);
  const writing = useWriting();
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector(`[data-at="${at}"]`)?.scrollIntoView({ block: "nearest" });
  }, [at]);
  if (!typed) return null;
  const found = entriesFor(typed, { facts });
  const data = typed.sign === "@";
  // Somebody goes on typing words: then the sign was only a sign.
  if (found.length === 0 && typed.query.includes(" ")) return null;
  const below = typed.top + 300 < window.innerHeight;
  const width = data ? 340 : 224;
  return createPortal(
    <div
      ref={list}
      data-floating
      role="listbox"
      aria-label={data ? "Insert reader data" : "Add a block here"}
      className="pointer-events-auto fixed z-50 max-h-72 max-w-[calc(100vw-1rem)] overflow-y-auto rounded-lg border bg-paper p-1 shadow-xl"
      style={{
        width,
        left: Math.max(8, Math.min(typed.left, window.innerWidth - width - 8)),
        ...(below ? { top: typed.top + 6 } : { bottom: window.innerHeight - typed.top + 24 }),
      }}
      onMouseDown={(event) => event.preventDefault()}
    >
      {found.map((entry, index) => (
        <div
          key={entry.key}
          data-at={index}
          role="option"
          tabIndex={-1}
          aria-selected={index === Math.min(at, found.length - 1)}
          onClick={() => take(entry, writing)}
          onKeyDown={() => undefined}
          className="flex min-h-8 cursor-pointer items-center gap-2 rounded-md px-2 hover:bg-black/5 aria-selected:bg-mulberry-wash"
        >
          {"block" in entry ? (
            <BlockEntry block={entry.block} />
          ) : "either" in entry ? (
            <EitherEntry />
          ) : (
            <DatumEntry datum={entry.datum} />
          )}
        </div>
      ))}
      {found.length === 0 && (
        <p className="px-2 py-1.5 text-ink-soft">
          {data ? `No reader data is called “${typed.query}”.` : `No block is called “${typed.query}”.`}
        </p>
      )}
    </div>,
    document.body,
  );
}

function BlockEntry({ block }: { block: BlockTypeName }): ReactNode {
  const Icon = blockIcon(block);
  return (
    <>
      <Icon className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
      {BLOCK_TYPES[block].label}
    </>
  );
}

function EitherEntry(): ReactNode {
  return (
    <>
      <Split className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
      Either/or
      <span className="text-xs text-ink-soft">words that differ from reader to reader</span>
    </>
  );
}

/** What is said of data that everybody has. */
const ABOUT = {
  lookup: "lookup",
  code: "a code each",
  day: "the day",
  letter: "the letter itself",
  all: "all the same",
} as const;

/** What it is, what this reader gets, and how many would get nothing. */
function DatumEntry({ datum }: { datum: ReaderDatum }) {
  const reader = useComposer((state) => state.reader);
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const tag = tagOf(datum);
  const value = tagWords(tag, reader, around({ email, facts, reader }));
  const lack = facts.lacking[datum.key] ?? 0;
  return (
    <>
      {/* The name is what is sought: what this reader gets takes the room that is left. */}
      <span className="max-w-52 shrink-0 truncate">{datum.label}</span>
      <span className="flex min-w-0 grow justify-end">
        {value === NOTHING ? (
          <span className="truncate text-xs text-ink-soft">nothing here</span>
        ) : isPictureTag(datum.key, facts.tags) ? (
          <img src={value} alt="this reader’s" className="h-6 max-w-16 rounded-sm object-contain" />
        ) : (
          <span className="truncate rounded-sm bg-teal-wash px-1 text-xs text-teal">{value}</span>
        )}
      </span>
      <span className="w-20 shrink-0 text-right text-xs text-ink-soft">
        {datum.of !== "reader"
          ? ABOUT[datum.of]
          : lack > 0
            ? `${counted(lack, "lacks", "lack")} it`
            : "all have it"}
      </span>
    </>
  );
}
