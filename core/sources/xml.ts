/** Catalogues in XML as records: whatever element repeats is one, its children are its columns. */
import { Parser } from "htmlparser2";
import { Cells, LONGEST_CELL, type RawRecord, type RecordReader, SourceError } from "./record";

/** What things are called in catalogues, where only one of them is there. */
const KNOWN = /^(item|entry|product|offer|record|row|job|property|listing|vacancy|recipe|article|event)$/i;
/** So deep elements may stand in one another. */
const DEEPEST = 60;

const local = (name: string) => name.slice(name.indexOf(":") + 1);

/**
 * The path of the element that things are: the outermost that repeats and holds others, by the beginning of a document.
 * @returns the local names from the root, joined by `/`; null when nothing looks like a list of things
 */
export function repeatedElement(beginning: string): string | null {
  const path: string[] = [];
  const seen = new Map<string, { times: number; inner: boolean; depth: number }>();
  const parser = new Parser(
    {
      onopentag(name) {
        const above = seen.get(path.join("/"));
        if (above) above.inner = true;
        path.push(local(name));
        if (path.length > DEEPEST) parser.reset();
        const key = path.join("/");
        const it = seen.get(key) ?? { times: 0, inner: false, depth: path.length };
        it.times++;
        seen.set(key, it);
      },
      onclosetag() {
        path.pop();
      },
    },
    { xmlMode: true },
  );
  parser.write(beginning);
  const things = [...seen].filter(([, { inner, depth }]) => inner && depth > 1);
  things.sort(([, a], [, b]) => a.depth - b.depth || b.times - a.times);
  const repeated = things.find(([, { times }]) => times > 1);
  const known = things.find(([key]) => KNOWN.test(key.slice(key.lastIndexOf("/") + 1)));
  return (
    (known && repeated && repeated[1].depth >= known[1].depth ? known : (repeated ?? known))?.[0] ?? null
  );
}

/** Reads a catalogue in XML whose things stand at a path, as `repeatedElement` finds it. */
export function xmlReader(thing: string): RecordReader {
  const path: string[] = [];
  /** How deep the thing stands that is open; 0 where none is. */
  let within = 0;
  let cells = new Cells();
  let text = "";
  let opened = 0;
  let rootClosed = false;
  let found: RawRecord[] = [];
  // Lines are counted up to where a thing begins, piece by piece.
  let line = 1;
  let counted = 0;
  let piece = "";
  let pieceAt = 0;
  const lineAt = (offset: number) => {
    for (let at = Math.max(0, counted - pieceAt); at < Math.min(piece.length, offset - pieceAt); at++)
      if (piece.charCodeAt(at) === 10) line++;
    counted = Math.max(counted, offset);
    return line;
  };
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        path.push(local(name));
        if (path.length > DEEPEST)
          throw new SourceError(
            `Line ${lineAt(parser.startIndex)} has elements nested more than ${DEEPEST} deep.`,
          );
        text = "";
        if (within === 0) {
          if (path.join("/") !== thing) return;
          within = path.length;
          opened = lineAt(parser.startIndex);
          cells = new Cells();
        }
        const column = path.slice(within).join(".");
        for (const [key, value] of Object.entries(attributes))
          if (!key.startsWith("xmlns") && value.trim() !== "")
            cells.add(column === "" ? local(key) : `${column}.${local(key)}`, value.trim());
      },
      ontext(data) {
        if (within > 0 && text.length < LONGEST_CELL) text += data;
      },
      // The parser is never told that the text ends: what has no end is not closed.
      onclosetag() {
        if (within > 0 && path.length === within) {
          found.push({ where: `Line ${opened}`, cells: cells.take() });
          within = 0;
        } else if (within > 0 && text.trim() !== "") cells.add(path.slice(within).join("."), text.trim());
        text = "";
        path.pop();
        if (path.length === 0) rootClosed = true;
      },
    },
    { xmlMode: true },
  );
  const taken = () => {
    const records = found;
    found = [];
    return records;
  };
  return {
    push(next) {
      lineAt(pieceAt + piece.length);
      pieceAt += piece.length;
      piece = next;
      parser.write(next);
      return taken();
    },
    end() {
      const last = lineAt(pieceAt + piece.length);
      if (!rootClosed)
        throw new SourceError(
          `It stops half way: the XML has no end after line ${last}. Try again later, or give the whole file.`,
        );
      return taken();
    },
  };
}
