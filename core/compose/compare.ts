import { blockTitle } from "../blocks";
import {
  childIndex,
  type Email,
  ENVELOPE_LINES,
  inSentence,
  type Located,
  ownOf,
  same,
  walk,
} from "../email";
import { longestRising } from "../steps";

export type Difference = "added" | "removed" | "changed" | "moved";

/** What is different between two designs, part by part. */
export interface Comparison {
  /** By the id of a part: what became of it from the first design to the second. */
  parts: ReadonlyMap<string, Difference>;
  /** The same in words, blocks only, in the order of the design each stands in. */
  words: readonly { id: string; difference: Difference; title: string }[];
  /** What differs of the whole: the envelope, the theme, links, the text part. */
  whole: readonly string[];
}

const sameOwn = (a: Located, b: Located) => same(ownOf(a.kind, a.node), ownOf(b.kind, b.node));

/**
 * Compares two designs by the ids of their parts. A part is moved when it stands in another part, or in another order
 * among those that are in both.
 */
export function compareEmails(before: Email, after: Email): Comparison {
  const first = new Map([...walk(before)].map((it) => [it.node.id, it]));
  const second = new Map([...walk(after)].map((it) => [it.node.id, it]));
  const parts = new Map<string, Difference>();
  for (const [id, it] of first) {
    const there = second.get(id);
    if (!there) parts.set(id, "removed");
    else if (!sameOwn(it, there)) parts.set(id, "changed");
    else if (it.parent !== there.parent) parts.set(id, "moved");
  }
  for (const id of second.keys()) if (!first.has(id)) parts.set(id, "added");
  for (const id of reordered(before, after)) if (!parts.has(id)) parts.set(id, "moved");

  const words: { id: string; difference: Difference; title: string }[] = [];
  const say = (email: Email, only: (difference: Difference) => boolean) => {
    for (const it of walk(email)) {
      const difference = parts.get(it.node.id);
      if (it.kind === "block" && difference && only(difference))
        words.push({ id: it.node.id, difference, title: blockTitle(it.node) });
    }
  };
  say(before, (difference) => difference === "removed");
  say(after, (difference) => difference !== "removed");

  const whole: string[] = [];
  const differs = (a: unknown, b: unknown) => !same(a, b);
  for (const line of ENVELOPE_LINES)
    if (differs(line.of(before.envelope), line.of(after.envelope))) whole.push(inSentence(line));
  const addresses = ({ envelope: { sender } }: Email) => [sender.address, sender.replyTo];
  if (differs(addresses(before), addresses(after))) whole.push("the sender’s address");
  if (before.theme !== after.theme) whole.push("the theme");
  if (differs(before.links, after.links)) whole.push("parameters of links");
  if (differs(before.textPart, after.textPart)) whole.push("the text part");
  if (before.language !== after.language) whole.push("the language");
  return { parts, words, whole };
}

/** Parts that are in both designs under the same parent, but not in the longest run that kept its order. */
function reordered(before: Email, after: Email): string[] {
  const now = childIndex(after);
  const out: string[] = [];
  for (const [parent, ids] of childIndex(before)) {
    const other = new Set(now.get(parent) ?? []);
    const stayed = ids.filter((id) => other.has(id));
    const place = new Map((now.get(parent) ?? []).map((id, index) => [id, index]));
    const kept = new Set(longestRising(stayed.map((id) => place.get(id) ?? 0)).map((index) => stayed[index]));
    out.push(...stayed.filter((id) => !kept.has(id)));
  }
  return out;
}
