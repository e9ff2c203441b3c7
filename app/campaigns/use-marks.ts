import { useState } from "react";

/** Which of a list are marked: what is not shown any more is not marked either. */
export function useMarks(shown: readonly { id: string }[]) {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const ids = shown.flatMap(({ id }) => (marked.has(id) ? [id] : []));
  return {
    ids,
    has: (id: string) => marked.has(id),
    mark: (id: string, on: boolean) =>
      setMarked((before) => new Set(on ? [...before, id] : [...before].filter((one) => one !== id))),
    clear: () => setMarked(new Set()),
  };
}
