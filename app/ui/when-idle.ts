/** Does something when nothing else is to be done, after so many milliseconds at the latest. Returns how to call it off. */
export function whenIdle(work: () => void, within: number): () => void {
  // Not every browser has it (Safari).
  if (typeof requestIdleCallback === "function") {
    const asked = requestIdleCallback(work, { timeout: within });
    return () => cancelIdleCallback(asked);
  }
  const timer = setTimeout(work, 50);
  return () => clearTimeout(timer);
}
