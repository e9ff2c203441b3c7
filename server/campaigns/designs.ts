/** Designs as they were read lately: reading one takes about as long as compiling it. Nobody changes one in place. */
import type { Email } from "~/core/email";
import type { Septima } from "../septima";

interface ReadDesign {
  revision: number;
  email: Email;
}

/** So many designs are kept as they were read. */
const KEPT = 40;

/** The designs that were read lately, by campaign; the revision says whether one is the newest. */
export function readDesigns(septima: Septima): Map<string, ReadDesign> {
  let designs = septima.cache.get("designs") as Map<string, ReadDesign> | undefined;
  if (!designs) {
    designs = new Map();
    septima.cache.set("designs", designs);
  }
  return designs;
}

/** Remembers a design as it was read. The one that was used longest ago is forgotten. */
export function rememberDesign(septima: Septima, campaignId: string, { revision, email }: ReadDesign): void {
  const designs = readDesigns(septima);
  designs.delete(campaignId);
  designs.set(campaignId, { revision, email });
  for (const oldest of [...designs.keys()].slice(0, -KEPT)) designs.delete(oldest);
}
