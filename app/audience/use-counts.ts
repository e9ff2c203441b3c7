import { useEffect } from "react";
import { useFetcher } from "react-router";
import type { AudienceCounts } from "~/server/audience/sizes";

/**
 * How many there are in all and in each group: what is known at once, and what is so now when it has been counted.
 * Counted again after anything was changed.
 */
export function useCounts(known: AudienceCounts | null): {
  counts: AudienceCounts | null;
  counting: boolean;
} {
  const { load, data, state } = useFetcher<AudienceCounts>();
  useEffect(() => void load("/audience/counts"), [load]);
  return { counts: data ?? known, counting: data === undefined || state !== "idle" };
}
