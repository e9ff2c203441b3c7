import { type Inline, same } from "../email";

const TAG = "\ufffc";

/**
 * Has each run of words with one look rewritten by itself, so that looks, links, line breaks and merge tags stay
 * where they are. What comes back without a run's tags is refused: the run stays as it was.
 */
export async function assistInline(
  content: readonly Inline[],
  rewrite: (text: string) => Promise<string>,
): Promise<Inline[]> {
  const runs: Inline[][] = [];
  for (const it of content) {
    const last = runs.at(-1);
    const alike = last && it.type !== "hardBreak" && last[0].type !== "hardBreak";
    if (alike && same(last[0].marks ?? [], it.marks ?? [])) last.push(it);
    else runs.push([it]);
  }
  const done: Inline[] = [];
  for (const run of runs) done.push(...(await rewriteRun(run, rewrite)));
  return done;
}

async function rewriteRun(
  run: readonly Inline[],
  rewrite: (text: string) => Promise<string>,
): Promise<Inline[]> {
  const [first] = run;
  const text = run.map((it) => (it.type === "text" ? it.text : TAG)).join("");
  if (first.type === "hardBreak" || !/\p{L}{2,}/u.test(text)) return [...run];
  const tags = run.filter((it) => it.type !== "text");
  const lead = /^\s*/.exec(text)?.[0] ?? "";
  const tail = /\s*$/.exec(text)?.[0] ?? "";
  const answer = `${lead}${(await rewrite(text.trim())).trim()}${tail}`;
  const parts = answer.split(TAG);
  if (parts.length !== tags.length + 1) return [...run];
  return parts.flatMap((part, index): Inline[] => {
    const words: Inline[] =
      part === "" ? [] : [{ type: "text", text: part, ...(first.marks && { marks: first.marks }) }];
    return index < tags.length ? [...words, tags[index]] : words;
  });
}
