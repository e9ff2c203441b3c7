import { newId } from "../state/store";

const KEY = "septima window";
const lockOf = (window: string) => `septima window ${window}`;

/**
 * The id of this window, the same after a reload. A window that was duplicated gets one of its own: each holds a lock
 * on its id for as long as it lives.
 */
export async function ownWindow(): Promise<string> {
  const kept = sessionStorage.getItem(KEY);
  if (kept && (await held(kept))) return kept;
  const fresh = newId();
  sessionStorage.setItem(KEY, fresh);
  await held(fresh);
  return fresh;
}

const mine = new Set<string>();

/** Takes the lock of an id. False when another window has it. */
function held(window: string): Promise<boolean> {
  if (mine.has(window) || !navigator.locks) return Promise.resolve(true);
  return new Promise((resolve) => {
    void navigator.locks.request(lockOf(window), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      if (!lock) return undefined;
      mine.add(window);
      // Held until the window closes.
      return new Promise<void>(() => {});
    });
  });
}

/** Which of these windows are closed. Where the browser cannot tell, none is taken for closed. */
export async function closedAmong(windows: readonly string[]): Promise<string[]> {
  if (!navigator.locks || windows.length === 0) return [];
  const { held: locks = [] } = await navigator.locks.query();
  const open = new Set(locks.map(({ name }) => name));
  return windows.filter((window) => !open.has(lockOf(window)));
}
