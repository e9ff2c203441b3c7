import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** What the address of the page asks for, and a way to change parts of it where one is; an empty part goes. */
export function useAddress() {
  const [params, setParams] = useSearchParams();
  const change = useCallback(
    (parts: Record<string, string | null>) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(parts)) {
            if (value) next.set(key, value);
            else next.delete(key);
          }
          return next;
        },
        { replace: true, preventScrollReset: true },
      ),
    [setParams],
  );
  return [params, change] as const;
}
