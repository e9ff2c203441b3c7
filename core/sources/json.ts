/** JSON and JSON Lines as records: the outermost list of things there is, wherever it stands. */
import { JSONParser } from "@streamparser/json";
import { Cells, type RawRecord, type RecordReader, SourceError } from "./record";

/** So deep a list may stand, and so deep what a thing says is looked into. */
const PATHS = ["$.*", "$.*.*", "$.*.*.*", "$.*.*.*.*"];
const DEEPEST = 4;

/** What a thing says, by the names of what says it, joined by points; of things in a list each says it once more. */
function flatten(value: unknown, name: string, cells: Cells, depth: number): void {
  if (value === null || value === undefined || value === "") return;
  if (Array.isArray(value)) {
    for (const one of value) flatten(one, name, cells, depth + 1);
  } else if (typeof value === "object") {
    if (depth > DEEPEST) return;
    for (const [key, inner] of Object.entries(value))
      flatten(inner, name === "" ? key : `${name}.${key}`, cells, depth + 1);
  } else cells.add(name, String(value));
}

function recordOf(value: object, where: string): RawRecord {
  const cells = new Cells();
  flatten(value, "", cells, 0);
  return { where, cells: cells.take() };
}

/** Reads JSON that holds a list of things, at its root or some steps within. */
export function jsonReader(): RecordReader {
  const parser = new JSONParser({ paths: PATHS, keepStack: false });
  let found: RawRecord[] = [];
  let listed = 0;
  let line = 1;
  let ended = false;
  parser.onValue = ({ value, key, parent, stack }) => {
    // The outermost list: none of what it stands in is a list.
    if (typeof key !== "number" || stack.some(({ mode }) => mode === 1)) return;
    if (typeof value === "object" && value !== null && !Array.isArray(value))
      found.push(recordOf(value, `Record ${++listed}`));
    // The parser keeps lists whole; nobody asks for this one.
    if (Array.isArray(parent)) parent[key] = undefined as never;
  };
  parser.onEnd = () => {
    ended = true;
  };
  const taken = () => {
    const records = found;
    found = [];
    return records;
  };
  return {
    push(text) {
      // Line by line, so that what is wrong is named with its line.
      for (let from = 0; from < text.length; ) {
        const end = text.indexOf("\n", from) + 1 || text.length;
        const piece = text.slice(from, end);
        if (ended && piece.trim() !== "")
          throw new SourceError(`Line ${line} goes on after the end of the JSON.`);
        try {
          if (!ended) parser.write(piece);
        } catch (error) {
          throw new SourceError(`Line ${line} is not JSON (${(error as Error).message}).`);
        }
        if (piece.endsWith("\n")) line++;
        from = end;
      }
      return taken();
    },
    end() {
      if (!ended)
        throw new SourceError(
          `It stops half way: the JSON has no end after line ${line}. Try again later, or give the whole file.`,
        );
      return taken();
    },
  };
}

/** Reads JSON Lines: a thing in each line. A line that is none is left out and told. */
export function jsonLinesReader(told: (problem: string) => void): RecordReader {
  let rest = "";
  let line = 0;
  const read = (text: string): RawRecord | null => {
    line++;
    if (text.trim() === "") return null;
    try {
      const value = JSON.parse(text) as unknown;
      if (typeof value === "object" && value !== null && !Array.isArray(value))
        return recordOf(value, `Line ${line}`);
      told(`Line ${line} is JSON, but no thing with names in it`);
    } catch {
      told(`Line ${line} is not JSON`);
    }
    return null;
  };
  return {
    push(text) {
      const lines = (rest + text).split("\n");
      rest = lines.pop() ?? "";
      return lines.map(read).filter((it) => it !== null);
    },
    end() {
      if (rest.trim() === "") return [];
      try {
        JSON.parse(rest);
      } catch {
        throw new SourceError(
          `It stops half way, in line ${line + 1}. Try again later, or give the whole file.`,
        );
      }
      const last = read(rest);
      return last ? [last] : [];
    },
  };
}
