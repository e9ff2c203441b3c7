/** How much preflight found, at its step in the bar: what stops, or what is worth a look. */
import { useEffect, useState } from "react";
import { ask, asking } from "../requests";
import { onRecheck } from "./recheck";

/** So long after the last change it is looked again, in milliseconds. */
const AFTER = 1500;

type Counts = { stops: number; look: number; could: number };

export function StepCount({ campaign }: { campaign: string }) {
  const [counts, setCounts] = useState<Counts | null>(null);
  useEffect(() => {
    let call = asking();
    const look = async () => {
      call.abort();
      call = asking();
      const { signal } = call;
      const answer = await ask("/campaigns/:campaign/preflight/counts", { at: { campaign }, signal });
      // Who is away, or has gone, leaves what stood there.
      if (!signal.aborted && answer.problem === null) setCounts(answer.result);
    };
    let timer = setTimeout(look, AFTER);
    const stop = onRecheck(() => {
      clearTimeout(timer);
      timer = setTimeout(look, AFTER);
    });
    return () => {
      stop();
      clearTimeout(timer);
      call.abort();
    };
  }, [campaign]);
  if (!counts || counts.stops + counts.look === 0) return null;
  const { stops, look } = counts;
  return (
    <span
      data-testid="preflight-count"
      className={`min-w-4.5 rounded-full px-1 text-center text-xs/4.5 font-semibold text-white tabular-nums ${stops > 0 ? "bg-red" : "bg-amber"}`}
    >
      {stops + look}
      <span className="sr-only">
        {stops > 0 ? ` found, ${stops} of them ${stops === 1 ? "stops" : "stop"} it` : " worth a look"}
      </span>
    </span>
  );
}
