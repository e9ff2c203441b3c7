import { useEffect, useState } from "react";
import type { Meaning, Plan } from "~/core/importing";
import type { Check } from "~/server/audience/import-check";
import { Choose } from "../ui/choose";
import { counted } from "../ui/time";

const WORDS: Record<Meaning, string> = {
  subscribed: "may be written to",
  unsubscribed: "has unsubscribed",
  bounced: "takes no mail",
  complained: "called it spam",
  out: "leave the line out",
};

/** What the words of a file mean that say whether somebody may be written to: those nobody knows have to be said. */
export function StatusWords({
  words,
  columns,
  onChange,
}: {
  /** Null while they are being counted. */
  words: Check["words"] | null;
  columns: Plan["columns"];
  onChange(columns: Plan["columns"]): void;
}) {
  // While a choice is worked out, what was counted before stays where it is.
  const [shown, setShown] = useState(words ?? []);
  useEffect(() => {
    if (words) setShown((before) => inOrder(before, words));
  }, [words]);
  const target = columns.find((column) => column.target.to === "status")?.target;
  if (target?.to !== "status" || shown.length === 0) return null;
  const choose = (word: string, meaning: Meaning) =>
    onChange(
      columns.map((column) =>
        column.target.to === "status"
          ? { ...column, target: { ...column.target, means: { ...column.target.means, [word]: meaning } } }
          : column,
      ),
    );
  return (
    <section className="card p-4" aria-label="Whether they may be written to">
      <h2 className="font-semibold">Whether they may be written to</h2>
      <ul className="mt-2 max-h-80 divide-y overflow-y-auto">
        {shown.map(({ word, said: written, count, meaning }) => {
          const means = target.means[word] ?? meaning;
          const said = word === "" ? "nothing stands there" : `“${written}”`;
          return (
            <li key={word} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
              <span
                className={`w-48 truncate ${means === null ? "font-semibold text-amber" : ""}`}
                title={written}
              >
                {said}
              </span>
              <span className="w-24 text-right text-ink-soft max-sm:w-auto">{counted(count, "line")}</span>
              <Choose<Meaning>
                label={`What ${said} means`}
                className="w-48!"
                placeholder="say what it means…"
                value={means ?? ""}
                options={(Object.keys(WORDS) as Meaning[]).map((value) => ({ value, label: WORDS[value] }))}
                onChange={(value) => choose(word, value)}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** The words as they stood before, so that none moves under the hand; new ones behind. */
function inOrder(before: Check["words"], now: Check["words"]): Check["words"] {
  const at = new Map(before.map(({ word }, index) => [word, index]));
  return [...now].sort((a, b) => (at.get(a.word) ?? now.length) - (at.get(b.word) ?? now.length));
}
