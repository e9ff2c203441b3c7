/** How long work may go on in a frame, in milliseconds, and how long after scrolling only one piece of it is done. */
const BUDGET = 30;
const SCROLLING = 120;

/**
 * Work that can wait for its turn, such as drawing small pictures: a few milliseconds of it in each frame, so that
 * scrolling and pressing go on meanwhile; one piece a frame while the page is being scrolled.
 */
export class Turns {
  private readonly waiting = new Set<() => void>();
  private asked = false;
  private scrolledAt = Number.NEGATIVE_INFINITY;

  /**
   * @param nextFrame calls back before the next frame
   * @param now milliseconds, of any beginning
   */
  constructor(
    private readonly nextFrame: (work: () => void) => void,
    private readonly now: () => number,
  ) {}

  /** Does something when there is time for it, in the order asked for. @returns how to think better of it */
  ask(work: () => void): () => void {
    this.waiting.add(work);
    this.next();
    return () => this.waiting.delete(work);
  }

  scrolled(): void {
    this.scrolledAt = this.now();
  }

  private next(): void {
    if (this.asked || this.waiting.size === 0) return;
    this.asked = true;
    this.nextFrame(() => {
      this.asked = false;
      const start = this.now();
      const until = start + (start - this.scrolledAt < SCROLLING ? 0 : BUDGET);
      for (const work of this.waiting) {
        this.waiting.delete(work);
        work();
        if (this.now() >= until) break;
      }
      this.next();
    });
  }
}

const turns = new Turns(
  (work) => requestAnimationFrame(work),
  () => performance.now(),
);
if (typeof window !== "undefined")
  window.addEventListener("scroll", () => turns.scrolled(), { capture: true, passive: true });

/** The same, of this page. */
export const inTurn = (work: () => void) => turns.ask(work);
