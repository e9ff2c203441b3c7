import type { Command } from "./commands";

/** A picture of the library as designs name it. */
export interface NamedPicture {
  src: string;
  width: number;
  height: number;
}

/**
 * The same with another picture wherever one of some is named: in blocks, behind content, in HTML of one's own. Its
 * size, where it is kept beside the address, is the new one's.
 */
export function withPicture<T>(it: T, old: ReadonlySet<string>, fresh: NamedPicture): T {
  if (typeof it === "string") return replaced(it, old, fresh.src) as T;
  if (Array.isArray(it))
    return sameOr(
      it,
      it.map((one) => withPicture(one, old, fresh)),
    ) as T;
  if (typeof it !== "object" || it === null) return it;
  const before = it as Record<string, unknown>;
  const after = Object.fromEntries(
    Object.entries(before).map(([key, value]) => [key, withPicture(value, old, fresh)]),
  );
  if (typeof before.src === "string" && old.has(before.src)) {
    const { width, height } = fresh;
    if ("natural" in before) after.natural = { width, height };
    else if (typeof before.width === "number" && typeof before.height === "number")
      Object.assign(after, { width, height });
  }
  // What is unchanged stays the very same, so that comparing is quick.
  return Object.keys(after).some((key) => after[key] !== before[key]) ? (after as T) : it;
}

function replaced(text: string, old: ReadonlySet<string>, fresh: string): string {
  if (!text.includes("/pictures/")) return text;
  return text.replace(/\/pictures\/[\w-]+\.\w+/g, (address) => (old.has(address) ? fresh : address));
}

const sameOr = <T>(before: T[], after: T[]): T[] =>
  after.every((one, index) => one === before[index]) ? before : after;

/** Shows another picture wherever one of some is shown in an email. */
export function replacePicture(old: ReadonlySet<string>, fresh: NamedPicture): Command {
  return (edit) => edit.become(withPicture(edit.email, old, fresh));
}
