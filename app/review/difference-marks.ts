import type { Difference } from "~/core/compose";

const OUTLINE: Record<Difference, { line: string; ground: string | null }> = {
  added: { line: "3px solid #23703A", ground: "#23703a14" },
  removed: { line: "3px solid #B3261E", ground: "#b3261e14" },
  changed: { line: "3px solid #8A5200", ground: "#8a520014" },
  moved: { line: "3px dashed #7D2248", ground: null },
};

/** Style rules that mark what has changed in a drawn email, by the ids of its parts. */
export function differenceMarks(parts: Iterable<readonly [string, Difference]>): string {
  return [...parts]
    .map(([id, difference]) => {
      const { line, ground } = OUTLINE[difference];
      const filled = ground === null ? "" : `;background-image:linear-gradient(${ground},${ground})`;
      return `[data-node="${CSS.escape(id)}"]{outline:${line};outline-offset:-2px${filled}}`;
    })
    .join("");
}
