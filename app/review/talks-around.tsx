import type { ReactNode } from "react";
import { ask, tell } from "../requests";
import { ownName, TalksProvider, useLiveTalks, useOwnName } from "./use-talks";

/** The talks of a campaign, for whatever a colleague sees of it. */
export function TalksAround({ campaign, children }: { campaign: string; children: ReactNode }) {
  const at = { campaign };
  const author = useOwnName();
  const talks = useLiveTalks(
    (signal) => ask("/campaigns/:campaign/talks", { at, signal }),
    // The name may have been written a moment ago.
    (body) => tell("/campaigns/:campaign/talks", { name: ownName() || "A colleague", ...body }, { at }),
  );
  return <TalksProvider value={{ ...talks, author }}>{children}</TalksProvider>;
}
