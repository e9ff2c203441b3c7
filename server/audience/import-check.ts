/** What a file would come to if it were brought in by a plan. */
import {
  type ImportCounts,
  MOST_WORDS,
  type Plan,
  type StatusWord,
  Tally,
  wantedFrom,
} from "~/core/importing";
import type { Septima } from "../septima";
import { lists } from "./groups";
import { fileFacts } from "./import-file";
import { knownContacts, linesOf, prepared, type Rejected, readerFor, shortly } from "./import-lines";

/** So many rejected lines are shown before the rest is a number. */
const SHOWN = 400;

export interface Check {
  counts: ImportCounts;
  rejected: Rejected[];
  /** Names of lists in the file that are not there; they are made. */
  newLists: string[];
  /** The words that say whether somebody may be written to, what each means, and how many lines have it; unknown first. */
  words: (StatusWord & { count: number })[];
}

/**
 * What a plan would come to, without changing anything.
 * @param onProgress told how many lines were looked at
 * @throws Refusal that says what the plan lacks, or which line cannot be read
 */
export async function checkImport(
  septima: Septima,
  id: string,
  plan: Plan,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?(counts: ImportCounts): void } = {},
): Promise<Check> {
  const file = await fileFacts(septima, id);
  const fields = await prepared(septima, file, plan);
  const read = readerFor(septima, file, plan, fields);
  const tally = new Tally();
  const rejected: Rejected[] = [];
  const named = new Set<string>();
  const words = new Map<string, Check["words"][number]>();
  const byName = new Map((await lists(septima)).map((list) => [list.name.toLowerCase(), list.id]));
  // A list that is made has nobody on it yet.
  const joined = (names: readonly string[]) => [
    ...plan.lists,
    ...(plan.newList.trim() === "" ? [] : [" new"]),
    ...names.map((name) => byName.get(name.toLowerCase()) ?? ` ${name}`),
  ];
  for await (const lines of linesOf(septima, file, read)) {
    signal?.throwIfAborted();
    const given = lines.flatMap(({ read: it }) => ("given" in it ? [it.given] : []));
    const known = await knownContacts(septima.db, given, false);
    for (const { line, cells, read: it } of lines) {
      tally.line(it);
      if (it.status) {
        const { word } = it.status;
        const known = words.get(word);
        if (known) known.count++;
        else if (words.size < MOST_WORDS) words.set(word, { ...it.status, count: 1 });
      }
      if ("reason" in it) {
        if (rejected.length < SHOWN) rejected.push({ line, reason: it.reason, cells: shortly(cells) });
        continue;
      }
      for (const name of it.given.lists) named.add(name);
      const address = it.given.email.toLowerCase();
      const contact = known.get(address) ?? null;
      tally.meets(address, contact, wantedFrom(it.given, plan, contact, joined(it.given.lists)));
    }
    onProgress?.(tally.counts);
  }
  return {
    counts: tally.counts,
    rejected,
    newLists: [...named].filter((name) => !byName.has(name.toLowerCase())).slice(0, 50),
    words: [...words.values()].sort(
      (a, b) => Number(a.meaning !== null) - Number(b.meaning !== null) || b.count - a.count,
    ),
  };
}
