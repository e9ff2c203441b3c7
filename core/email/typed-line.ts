import type { Inline } from "./inline";
import { readTyped, typedTag, typedWords } from "./tags";

/** A line of words and tags as it is typed; null where something stands in it that cannot be, such as either/or. */
export function typedLine(line: readonly Inline[]): string | null {
  let text = "";
  for (const it of line) {
    if (it.type === "text") text += typedWords(it.text);
    else if (it.type === "mergeTag") text += typedTag(it.attrs);
    else return null;
  }
  return text;
}

/** What was typed as a line of words and tags. */
export const lineTyped = (text: string): Inline[] =>
  readTyped(text).pieces.map(
    (piece): Inline =>
      typeof piece === "string" ? { type: "text", text: piece } : { type: "mergeTag", attrs: piece },
  );
