import { useEffect, useRef, useState } from "react";
import type { Outline, PictureStep } from "~/core/pictures";
import { resultOf, tell } from "../../requests";

/**
 * The outlines of the words among steps. While words change, the outline before stays, so that nothing flickers.
 * @returns them by the ids of the steps, and why one could not be had
 */
export function useOutlines(steps: readonly PictureStep[]): {
  outlines: Record<string, Outline>;
  problem: string | null;
} {
  const [outlines, setOutlines] = useState<Record<string, Outline>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(new Map<string, string>());
  useEffect(() => {
    for (const step of steps) {
      if (step.kind !== "words" || step.text.trim() === "") continue;
      const { id, font, weight, text } = step;
      const key = JSON.stringify([font, weight, text]);
      if (asked.current.get(id) === key) continue;
      asked.current.set(id, key);
      tell("/library/words", { font, weight, text })
        .then(resultOf)
        .then(
          (outline) => {
            // Only the newest counts, whichever comes first.
            if (asked.current.get(id) !== key) return;
            setProblem(null);
            setOutlines((all) => ({ ...all, [id]: outline }));
          },
          (error: Error) => {
            asked.current.delete(id);
            setProblem(error.message);
          },
        );
    }
  }, [steps]);
  return { outlines, problem };
}
