import { createContext, useContext, useEffect, useState } from "react";

import { ask } from "../requests";

type Values = readonly { value: string; count: number }[];

/** So long what was asked is not asked again, in milliseconds. */
const FRESH = 60_000;
const known = new Map<string, { at: number; values: Promise<Values> }>();

/** Whose values are offered: those of contacts, or of the items of this source. */
export const ValuesOfSource = createContext<string | null>(null);

function valuesOf(field: string, source: string | null): Promise<Values> {
  const key = `${source ?? ""} ${field}`;
  const kept = known.get(key);
  if (kept && performance.now() - kept.at < FRESH) return kept.values;
  const asked =
    source === null
      ? ask("/audience/values", { query: { field } })
      : ask("/sources/values", { query: { source, field } });
  const values = asked.then(({ problem, result }) => {
    // Without them a value can still be written.
    if (problem !== null) known.delete(key);
    return result ?? [];
  });
  known.set(key, { at: performance.now(), values });
  return values;
}

/** The values that contacts, or items, have in a field, the commonest first; null until they are known. */
export function useFieldValues(field: string): Values | null {
  const source = useContext(ValuesOfSource);
  const [found, setFound] = useState<{ field: string; values: Values } | null>(null);
  useEffect(() => {
    let wanted = true;
    void valuesOf(field, source).then((values) => wanted && setFound({ field, values }));
    return () => {
      wanted = false;
    };
  }, [field, source]);
  return found?.field === field ? found.values : null;
}
