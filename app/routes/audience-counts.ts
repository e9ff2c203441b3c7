import { audienceCounts } from "~/server/audience/sizes";
import type { Route } from "./+types/audience-counts";

/** How many there are in all and in each group, as things are now: it may take a while with many contacts. */
export const loader = ({ context: { septima } }: Route.LoaderArgs) => audienceCounts(septima);
