/** What is worked out of a picture while it is changed: how well its words can be read, and what it weighs. */
import { useEffect, useState } from "react";
import type { PictureStep } from "~/core/pictures";
import { resultOf, tell } from "../../requests";
import { legibility } from "./legibility";
import type { Weighed } from "./side-by-side";

/** How well the words that are being written can be read; null for anything else. */
export function useLegibility(
  picture: { href: string; width: number; height: number },
  steps: readonly PictureStep[],
  step: PictureStep | null,
  outlines: Parameters<typeof legibility>[3],
): number | null {
  const [found, setFound] = useState<number | null>(null);
  useEffect(() => {
    if (step?.kind !== "words") {
      setFound(null);
      return;
    }
    let gone = false;
    const timer = setTimeout(() => {
      legibility(picture, steps, step, outlines).then(
        (value) => !gone && setFound(value),
        () => !gone && setFound(null),
      );
    }, 120);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [picture, steps, step, outlines]);
  return found;
}

/** A picture as steps would show it, without keeping it. */
async function weighed(
  id: string,
  steps: readonly PictureStep[],
  width: number | undefined,
): Promise<Weighed> {
  const made = resultOf(
    await tell(
      "/library/:picture/detail",
      { intent: "trial", steps: [...steps], width },
      { at: { picture: id } },
    ),
  );
  return { type: made.type, bytes: made.bytes, src: `data:${made.type};base64,${made.data}` };
}

/** What the picture is in the email, as it is saved and as it would be; worked out when the hand rests. */
export function useTrial(
  id: string,
  saved: readonly PictureStep[],
  steps: readonly PictureStep[],
  width: number | undefined,
) {
  const [before, setBefore] = useState<Weighed | null>(null);
  const [after, setAfter] = useState<{ key: string; one: Weighed } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const was = JSON.stringify(saved);
  const key = JSON.stringify(steps);
  useEffect(() => {
    weighed(id, JSON.parse(was) as PictureStep[], width).then(setBefore, (error: Error) =>
      setProblem(error.message),
    );
  }, [id, was, width]);
  useEffect(() => {
    if (key === was) return;
    let gone = false;
    const timer = setTimeout(() => {
      weighed(id, JSON.parse(key) as PictureStep[], width).then(
        (one) => {
          if (gone) return;
          setProblem(null);
          setAfter({ key, one });
        },
        (error: Error) => !gone && setProblem(error.message),
      );
    }, 600);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id, key, was, width]);
  // While the next is worked out, the one before stays in view.
  return { before, now: key === was ? before : (after?.one ?? null), problem };
}

/** How wide it stands in the email, or that it is too small for it; in px. */
export function shownWords(width: number, shown: number): string {
  return width < shown
    ? `${width} wide: shown wider, it gets coarse`
    : `${shown} wide, fetched at twice that`;
}
