import type { FieldDef } from "../audience";
import { type Block, type Inline, isInline, type Section } from "../email";

type TagAttrs = Extract<Inline, { type: "mergeTag" }>["attrs"];

/** A place that another program would have filled in. */
export interface Placeholder {
  /** As it is written. */
  text: string;
  /** What stands within its signs. */
  name: string;
  count: number;
  /** Words around the first of them. */
  around: string;
  /** The field that it may mean; null when none comes to mind. */
  field: string | null;
}

/** What opens and what closes: brackets of every kind, once or more, and signs such as per cent around a name. */
const PAIRS: readonly [open: string, close: string, name: string][] = [
  ["\\{{2,3}", "\\}{2,3}", "[^{}\\n]{1,80}?"],
  ["\\{%[-=]?", "-?%\\}", "[^{}%\\n]{1,80}?"],
  ["\\[{2}", "\\]{2}", "[^\\[\\]\\n]{1,80}?"],
  ["<{2}", ">{2}", "[^<>\\n]{1,60}?"],
  ["<%=?", "%>", "[^%\\n]{1,80}?"],
  ["%{2}", "%{2}", "[^%\\n]{1,60}?"],
  ["[*][|]", "[|][*]", "[^|\\n]{1,60}?"],
  ["#{1,2}(?=[A-Z_]+#)", "#{1,2}", "[A-Z_]{2,40}"],
  ["\\$\\{", "\\}", "[^{}\\n]{1,60}?"],
  ["«", "»", "[\\p{L}][\\p{L}\\p{N}_ .-]{1,40}?"],
  ["\\{", "\\}", "[\\p{L}_][\\p{L}\\p{N}_ .:-]{1,50}?(?:\\|[^{}\\n]{0,80}?)?"],
  ["\\[", "\\]", "[\\p{L}_][\\p{L}\\p{N}_ .:|-]{1,40}?"],
  ["%", "%", "[\\p{L}_][\\p{L}\\p{N}_.-]{1,40}?"],
];
const ANY = new RegExp(
  PAIRS.map(([open, close, name]) => `(?:${open})\\s*(?:${name})\\s*(?:${close})`).join("|"),
  "gu",
);
/** Within brackets there are also asides, which are words. */
const ASIDE = /^\[\s*(sic|…|\.\.\.|\d+|[a-z]+ [a-z]+ [a-z]+.*)\s*\]$/i;

/** What stands within the signs of a placeholder: a name, without what a program would do to it. */
function placeholderName(text: string): string {
  return text
    .replace(/^[^\p{L}_]+|[^\p{L}\p{N}_)'"]+$/gu, "")
    .split(/\||:|\bdefault\b|\bfallback\b|,/i)[0]
    .replace(
      /^(contact|subscriber|recipient|user|member|customer|lead|person|profile|merge|field)s?[._ ]/i,
      "",
    )
    .trim();
}

/** Words by which names of fields are known. */
const MEANS: readonly [RegExp, string][] = [
  [/^(f.?name|first.?name|given.?name|forename|vorname|prenom|nombre|nome|voornaam|first)$/, "first_name"],
  [
    /^(l.?name|last.?name|sur.?name|family.?name|nachname|nom|apellidos?|cognome|achternaam|last)$/,
    "last_name",
  ],
  [/^(e.?mail|email.?address|mail|adresse)$/, "email"],
];

const bare = (name: string) =>
  name
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_|_$/g, "");

/** The field that a name may mean. */
export function meantField(name: string, fields: readonly Pick<FieldDef, "key" | "label">[]): string | null {
  const wanted = bare(name);
  const same = fields.find(({ key, label }) => bare(key) === wanted || bare(label) === wanted);
  if (same) return same.key;
  const known = MEANS.find(([pattern]) => pattern.test(wanted))?.[1];
  return fields.find(({ key }) => key === known)?.key ?? null;
}

/** Whether it is a line of words. Blocks of text have the same `type` as pieces of it. */
const isLine = (it: readonly unknown[]): it is Inline[] =>
  it.length > 0 && it.every((one) => isInline(one) && (one.type !== "text" || typeof one.text === "string"));

/** Every text piece of the words of a design, wherever it is. */
function eachLine(it: unknown, visit: (line: Inline[]) => void): void {
  if (Array.isArray(it)) {
    if (isLine(it)) visit(it);
    else for (const one of it) eachLine(one, visit);
  } else if (typeof it === "object" && it !== null)
    for (const value of Object.values(it)) eachLine(value, visit);
}

/** The placeholders that were left in words, those that come first first. */
export function placeholdersIn(
  parts: unknown,
  fields: readonly Pick<FieldDef, "key" | "label">[],
): Placeholder[] {
  const found = new Map<string, Placeholder>();
  eachLine(parts, (line) => {
    for (const it of line) {
      if (it.type !== "text") continue;
      for (const match of it.text.matchAll(ANY)) {
        const [text] = match;
        const name = placeholderName(text);
        if (ASIDE.test(text) || name === "") continue;
        const one = found.get(text);
        if (one) one.count += 1;
        else
          found.set(text, {
            text,
            name,
            count: 1,
            around: it.text.slice(Math.max(0, match.index - 30), match.index + text.length + 30).trim(),
            field: meantField(name, fields),
          });
      }
    }
  });
  return [...found.values()];
}

/** What becomes of a placeholder: a field takes its place, or nothing does. */
export type Filled = { field: string; fallback?: string; format?: TagAttrs["format"] } | "nothing";

/** The same parts with placeholders filled: those that are not named stay as they are. */
export function fillPlaceholders<T extends Section[] | Block[] | Inline[]>(
  parts: T,
  filled: Readonly<Record<string, Filled>>,
): T {
  const names = Object.keys(filled);
  if (names.length === 0) return parts;
  return replaced(parts) as T;

  function replaced(it: unknown): unknown {
    if (Array.isArray(it)) {
      if (isLine(it)) return it.flatMap(pieces);
      return it.map(replaced);
    }
    if (typeof it !== "object" || it === null) return it;
    return Object.fromEntries(Object.entries(it).map(([key, value]) => [key, replaced(value)]));
  }

  function pieces(it: Inline): Inline[] {
    if (it.type !== "text") return [it];
    const [name] = names
      .filter((one) => it.text.includes(one))
      .sort((one, other) => it.text.indexOf(one) - it.text.indexOf(other));
    if (name === undefined) return [it];
    const at = it.text.indexOf(name);
    const what = filled[name];
    const text = (words: string): Inline[] => (words === "" ? [] : [{ ...it, text: words }]);
    const tag: Inline[] =
      what === "nothing"
        ? []
        : [
            {
              type: "mergeTag",
              attrs: { fallback: "", format: "asIs", ...what },
              ...(it.marks && { marks: it.marks }),
            },
          ];
    const rest = { ...it, text: it.text.slice(at + name.length) };
    return [...text(it.text.slice(0, at)), ...tag, ...(rest.text === "" ? [] : pieces(rest))];
  }
}
