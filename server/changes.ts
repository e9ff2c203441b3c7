/**
 * What is kept in memory and decides or counts something is forgotten when another process changes it: triggers tell of
 * each change (`0020_changes.sql`). Where one process has the data for itself, nobody has to be told.
 */
import { audienceChanged, behaviourChanged } from "./audience/answers";
import type { Septima } from "./septima";

const forget = (...keys: string[]) => {
  return ({ cache }: Septima) => {
    for (const key of keys) cache.delete(key);
  };
};

/** What is forgotten, by what a trigger says the change is about. */
const FORGET: Readonly<Record<string, (septima: Septima) => void>> = {
  audience: audienceChanged,
  behaviour: behaviourChanged,
  settings: (septima) => {
    const read = [...septima.cache.keys()].filter((key) => key.startsWith("setting "));
    // The zone and the fields are settings, too.
    forget(...read, "audience context", "record facts")(septima);
  },
  themes: forget("themes"),
  lookups: forget("lookups"),
  codes: forget("code batches"),
};

/** Forgets from now on what other processes change. */
export async function hearChanges(septima: Septima): Promise<void> {
  await septima.db.hear("changes", (about) => {
    // What was missed may have been about anything.
    for (const one of about === null ? Object.keys(FORGET) : [about]) FORGET[one]?.(septima);
  });
}
