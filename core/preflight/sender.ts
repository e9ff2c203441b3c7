/** Who sends it, and whether readers can reach them: what is still ours must not go out. */
import { type Email, inlineText, PLACEHOLDER_BRAND } from "../email";
import type { Circumstances, Finding } from "./finding";

const stops = (text: string): Finding => ({ weight: "stops", text });
/** Whether something says what a new workspace comes with. */
const isOurs = (said: string, ours: string) => said.toLowerCase().includes(ours.toLowerCase());
const OUR_SITE = new URL(PLACEHOLDER_BRAND.website).hostname;

/** A sender, a postal address or a site that a new workspace came with and nobody has replaced. */
export function placeholders({ envelope: { sender } }: Email, { brand }: Circumstances): Finding[] {
  const found: Finding[] = [];
  const addresses = [sender.address, sender.replyTo ?? ""];
  if (addresses.some((address) => isOurs(address, `@${OUR_SITE}`)))
    found.push(
      stops(
        `The sender’s address is still the one that Septima came with, at ${OUR_SITE}. Write yours under Brand, and choose it above the email.`,
      ),
    );
  if (inlineText(sender.name).trim() === PLACEHOLDER_BRAND.name || brand.name === PLACEHOLDER_BRAND.name)
    found.push(
      stops(
        `The sender is still called “${PLACEHOLDER_BRAND.name}”. Write your name under Brand, and choose the sender above the email.`,
      ),
    );
  if (isOurs(brand.address, PLACEHOLDER_BRAND.address))
    found.push(
      stops(
        `The postal address is still “${PLACEHOLDER_BRAND.address}”. The law wants yours: write it under Brand.`,
      ),
    );
  if (isOurs(brand.website, OUR_SITE))
    found.push(
      stops(
        `The website is still “${PLACEHOLDER_BRAND.website}”. Write yours under Brand, or leave it empty.`,
      ),
    );
  return found;
}

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

/** What is said of domains for which nothing signs; null where there are none. */
export function notSigned(domains: readonly string[]): string | null {
  if (domains.length === 0) return null;
  return `Nothing signs messages from ${domains.join(" and ")}, and receivers take them for forged. Make keys for ${
    domains.length === 1 ? "it" : "them"
  } in Settings, under Sending, or say there that the relay signs.`;
}

export function unsigned({ unsigned: domains = [], sealed = null }: Circumstances): Finding[] {
  return [notSigned(domains), sealed].flatMap((words) => (words === null ? [] : [stops(words)]));
}

export function unreachable({ reached }: Circumstances): Finding[] {
  const words = reached ? outOfReach(reached) : null;
  return words === null ? [] : [stops(words)];
}
