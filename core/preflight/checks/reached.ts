import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { stops } from "../finding";

const PRIVATE_NAME = /(^|\.)(localhost|local|internal|lan|home\.arpa)$/;
const PRIVATE_NUMBER =
  /^(0|10|127|169\.254|172\.(1[6-9]|2\d|3[01])|192\.168|100\.(6[4-9]|[7-9]\d|1[01]\d|12[0-7]))\./;

/** Whether an address can be reached by anybody, and safely: https, and no name or number of one's own network. */
function isPublic(origin: string): boolean {
  if (!URL.canParse(origin)) return false;
  const { protocol, hostname } = new URL(origin);
  if (protocol !== "https:") return false;
  // Addresses that are routed everywhere begin with 2000::/3 (RFC 4291).
  if (hostname.startsWith("[")) return /^\[[23]/.test(hostname);
  if (/^\d+(\.\d+){3}$/.test(hostname)) return !PRIVATE_NUMBER.test(hostname);
  return hostname.includes(".") && !PRIVATE_NAME.test(hostname);
}

/** What is said where mail goes out through a real relay but readers cannot reach this program; null where they can. */
export function outOfReach({ origin, from }: NonNullable<Circumstances["reached"]>): string | null {
  if (from === "nowhere")
    return "Mail has nowhere to go: no relay is set. Set one in Settings, under Sending.";
  if (from === "here" || isPublic(origin)) return null;
  return `Links and pictures would lead readers to ${origin}, where they cannot reach Septima. Start it with SEPTIMA_ORIGIN set to the https address under which they can.`;
}

function unreachable({ reached }: Circumstances): Finding[] {
  const words = reached ? outOfReach(reached) : null;
  return words === null ? [] : [stops(words)];
}

export const reachedCheck: Check = {
  name: "reached",
  group: "law",
  label: "the way back from the message",
  why: "Links, pictures and unsubscribing lead through Septima; where it cannot be reached none of them works.",
  design: (_, around) => unreachable(around),
};
