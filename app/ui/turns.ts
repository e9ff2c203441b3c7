/**
 * Work that can wait for its turn, such as drawing small pictures: a few milliseconds of it in each frame, so that
 * scrolling and pressing go on meanwhile; less while the page is being scrolled.
 */
const BUDGET = 30;
const SCROLLING = 120;

const waiting = new Set<() => void>();
let asked = false;
let scrolledAt = Number.NEGATIVE_INFINITY;

if (typeof window !== "undefined")
  window.addEventListener("scroll", () => (scrolledAt = performance.now()), { capture: true, passive: true });

/** Does something when there is time for it, in the order asked for. @returns how to think better of it */
export function inTurn(work: () => void): () => void {
  waiting.add(work);
  ask();
  return () => waiting.delete(work);
}

function ask(): void {
  if (asked || waiting.size === 0) return;
  asked = true;
  requestAnimationFrame(() => {
    asked = false;
    const start = performance.now();
    const until = start + (start - scrolledAt < SCROLLING ? 1 : BUDGET);
    for (const work of waiting) {
      waiting.delete(work);
      work();
      if (performance.now() >= until) break;
    }
    ask();
  });
}
