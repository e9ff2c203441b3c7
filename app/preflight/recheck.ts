/** Tells the bar above that what it counts may have changed. */
const EVENT = "septima:recheck";

/** Something was saved, mended or set aside. */
export const recheck = (): void => {
  window.dispatchEvent(new Event(EVENT));
};

/** Calls when something may have changed; returns how to stop. */
export function onRecheck(call: () => void): () => void {
  window.addEventListener(EVENT, call);
  return () => window.removeEventListener(EVENT, call);
}
