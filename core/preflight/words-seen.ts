import type { Seen } from "./check";

/** What an edition says in its blocks, each with its words in order. */
export function wordsByBlock({ pairs }: Pick<Seen, "pairs">): Map<string, string[]> {
  const blocks = new Map<string, string[]>();
  for (const { kind, alternative, node, words } of pairs("light")) {
    if (kind !== "words" || alternative || node === null) continue;
    blocks.set(node, [...(blocks.get(node) ?? []), words]);
  }
  return blocks;
}
