import { useEffect, useState } from "react";

import { ask } from "../requests";

type Values = readonly { value: string; count: number }[];

/** So long what was asked is not asked again, in milliseconds. */
const FRESH = 60_000;
const known = new Map<string, { at: number; values: Promise<Values> }>();

function valuesOf(field: string): Promise<Values> {
  const kept = known.get(field);
  if (kept && performance.now() - kept.at < FRESH) return kept.values;
  const values = ask("/audience/values", { query: { field } }).then(({ problem, result }) => {
    // Without them a value can still be written.
    if (problem !== null) known.delete(field);
    return result ?? [];
  });
  known.set(field, { at: performance.now(), values });
  return values;
}

/** The values that contacts have in a field, the commonest first; null until they are known. */
export function useFieldValues(field: string): Values | null {
  const [found, setFound] = useState<{ field: string; values: Values } | null>(null);
  useEffect(() => {
    let wanted = true;
    void valuesOf(field).then((values) => wanted && setFound({ field, values }));
    return () => {
      wanted = false;
    };
  }, [field]);
  return found?.field === field ? found.values : null;
}
