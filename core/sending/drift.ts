/** The usual share of readers by which their number may change, and the most by which it may. */
const USUAL = { share: 1 / 20, readers: 200 };

/** From so many percent on any number of readers is taken. */
const ANY_NUMBER = 100;

/**
 * Whether clearly more or fewer readers were found than the sender confirmed.
 * @param percent by how much their number may change; null for the usual one in twenty, at most 200
 */
export function hasDrifted(confirmed: number, found: number, percent: number | null): boolean {
  if (percent !== null && percent >= ANY_NUMBER) return false;
  const most =
    percent === null ? Math.min(confirmed * USUAL.share, USUAL.readers) : (confirmed * percent) / 100;
  return Math.abs(found - confirmed) > most;
}
