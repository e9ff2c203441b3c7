import { useFetcher } from "react-router";
import type { Answer } from "../refusal";

/** What comes of changing one thing in the settings of sending. */
export type Came = Answer<{ tried?: { encrypted: boolean; ms: number } }>;

/** Asks for one thing to be changed, and says what came of it. */
export function useAsk() {
  const fetcher = useFetcher<Came>();
  const busy = fetcher.state !== "idle";
  return {
    ask: (body: { intent: string } & Record<string, unknown>) =>
      fetcher.submit(JSON.stringify(body), { method: "post", encType: "application/json" }),
    busy,
    /** What is being asked for. */
    asked: busy ? (fetcher.json as { intent?: string } | undefined)?.intent : undefined,
    came: busy ? undefined : fetcher.data,
    problem: busy ? null : (fetcher.data?.problem ?? null),
  };
}
