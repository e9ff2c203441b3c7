/** What cameras, phones and programs call pictures when nobody has named them. */
const NOBODYS_NAME =
  /^(img|dsc[fn]?|dcim|pict?|image|picture|photo|screen ?shot|screenshot|bildschirmfoto|untitled|unnamed|scan|download|file|copy|from|pxl|mvimg|still|logo)?[\s\d._:-]*(at|um)?[\s\d._:-]*$/i;

/** Words of a file name that say nothing of what is seen. */
const NOISE =
  /\b(final|edited|edit|copy|export|version|v\d+|web|small|large|hi ?res|low ?res|\d+px|\d{2,4}\s?x\s?\d{2,4}|@?\dx|original|cropped|resized|\d{4,})\b/gi;

/** A name in words, when somebody has named it; empty when a camera or a program has. */
function fromName(name: string): string {
  const stem = name
    .replace(/^.*[\\/]/, "")
    .replace(/\.[a-z0-9]{2,5}$/i, "")
    .replace(/\(\d+\)\s*$/, "");
  // Names of hexadecimal digits are made by programs.
  if (/^[0-9a-f-]{16,}$/i.test(stem)) return "";
  const words = stem
    .replace(/([\p{Ll}])(\p{Lu})/gu, "$1 $2")
    .replace(/[_\-.+]+/g, " ")
    .replace(NOISE, " ")
    .replace(/\s+/g, " ")
    .trim();
  if (NOBODYS_NAME.test(words) || !/\p{L}{3}/u.test(words)) return "";
  return words[0].toUpperCase() + words.slice(1).replace(/\b\p{Lu}\p{Ll}+/gu, (word) => word.toLowerCase());
}

/**
 * Drafts of an alternative text, best first: from a file's name when somebody has named it, and from what stands beside
 * the picture. A person decides: none is ever put in by itself.
 * @param neighbours words beside it, nearest first: a caption, a heading
 */
export function draftAlts(name: string, neighbours: readonly string[]): string[] {
  const drafts = [fromName(name), ...neighbours.map((words) => words.replace(/\s+/g, " ").trim())];
  const seen = new Set<string>();
  return drafts
    .map((draft) => (draft.length > 125 ? `${draft.slice(0, 124).replace(/\s+\S*$/, "")}…` : draft))
    .filter((draft) => {
      const key = draft.toLowerCase();
      if (draft.length < 3 || seen.has(key)) return false;
      seen.add(key);
      return true;
    })
    .slice(0, 3);
}
