import type { Comparison, Difference } from "~/core/compose";

const WORDS: Record<Difference, string> = {
  added: "Added",
  removed: "Removed",
  changed: "Changed",
  moved: "Moved",
};
const TONES: Record<Difference, string> = {
  added: "text-green",
  removed: "text-red",
  changed: "text-amber",
  moved: "text-mulberry",
};

/** What differs between two designs, in words. */
export function ChangeList({ of: { words, whole } }: { of: Pick<Comparison, "words" | "whole"> }) {
  if (words.length === 0 && whole.length === 0)
    return <p className="text-ink-soft">Both are the same, but perhaps for the look of rows and sections.</p>;
  return (
    <ul className="max-h-36 space-y-0.5 overflow-y-auto">
      {whole.map((what) => (
        <li key={what}>
          <span className="font-medium text-amber">Changed</span> {what}
        </li>
      ))}
      {words.map(({ id, difference, title }) => (
        <li key={`${id} ${difference}`} className="truncate">
          <span className={`font-medium ${TONES[difference]}`}>{WORDS[difference]}</span> “{title}”
        </li>
      ))}
    </ul>
  );
}

export function Changes({ of, title }: { of: Pick<Comparison, "words" | "whole">; title: string }) {
  return (
    <section aria-label={title} className="card p-3">
      <h2 className="mb-1 font-semibold">{title}</h2>
      <ChangeList of={of} />
    </section>
  );
}
