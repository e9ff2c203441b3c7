/** Whether what links lead to is there: asked of their servers, on demand. */
import { outlineOf } from "~/core/inboxes";
import { personalise, previewAddresses, readerOf } from "~/core/personal";
import { campaign } from "../campaigns/campaigns";
import { boundEmail, editionsOrWhy, someReader } from "../campaigns/rendering";
import { ownOrigins, readAddress, send, TooMuch, trustedBy } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** What became of a link that was tried. */
export interface LinkTried {
  href: string;
  words: string;
  /** Where it stands; null where that is no block of its own. */
  block: string | null;
  /** It answers; readers find nothing there; or its server lets only some look. */
  verdict: "fine" | "dead" | "unsure";
  /** Why it is not fine, as a sentence. */
  why: string;
}

/** So many are asked at a time. */
const TOGETHER = 8;
/** At most so many are asked at all. */
const MOST = 200;
/** How long one may take in all (ms), how much is read of it (octets), how often it may lead on. */
const LIMITS = { ms: 10_000, bytes: 200_000, redirects: 5 };

/** As so many readers get it, one of each of the largest editions, its links are looked at. */
const LOOKED = 12;

/** Where the links of a campaign lead its readers, besides to this program, each address once. */
async function linksToTry(septima: Septima, campaignId: string) {
  const { email, readers } = await campaign(septima, campaignId);
  const { editions } = await editionsOrWhy(septima, email, readers, campaignId);
  const samples =
    editions.length > 0 ? editions.slice(0, LOOKED).map(({ sample }) => sample) : [await someReader(septima)];
  const bound = await boundEmail(septima, email, {
    campaign: campaignId,
    readers: samples.map(({ id }) => id),
    places: true,
  });
  const own = ownOrigins(septima);
  const all = samples.flatMap((sample) => {
    const as = readerOf(sample, email.language, previewAddresses(septima.config.readers));
    return outlineOf(personalise(bound, as).html).links.filter(
      ({ href }) => /^https?:\/\//i.test(href) && !own.some((origin) => href.startsWith(`${origin}/`)),
    );
  });
  return [...new Map(all.map((link) => [link.href, link])).values()].slice(0, MOST);
}

/**
 * Tries the next few links of a campaign.
 * @param from which of them come next
 * @returns how many there are, those that were tried, and where to go on; null at the end
 */
export async function tryLinks(
  septima: Septima,
  campaignId: string,
  from: number,
): Promise<{ of: number; next: number | null; tried: LinkTried[] }> {
  const all = await linksToTry(septima, campaignId);
  const those = all.slice(from, from + TOGETHER);
  const tried = await Promise.all(
    those.map(async ({ href, words, node: block }) => ({
      href,
      words,
      block,
      ...(await tryAddress(septima, href)),
    })),
  );
  const next = from + TOGETHER < all.length ? from + TOGETHER : null;
  return { of: all.length, next, tried };
}

const fine = { verdict: "fine", why: "" } as const;

/** Asks an address whether it is there, following where it leads on. */
export async function tryAddress(
  septima: Septima,
  href: string,
): Promise<Pick<LinkTried, "verdict" | "why">> {
  const deadline = Date.now() + LIMITS.ms;
  try {
    let url = readAddress(href);
    for (let hop = 0; hop <= LIMITS.redirects; hop++) {
      const trusted = trustedBy(septima);
      // What this program shows to readers it knows to be there.
      if (ownOrigins(septima).includes(url.origin) && !trusted.some((base) => url.href.startsWith(base)))
        return fine;
      const { status, headers } = await asked(url, trusted, deadline);
      if (status >= 200 && status < 300) return fine;
      if (status >= 300 && status < 400 && headers.location) url = readAddress(headers.location, url);
      else return told(url, status);
    }
    return {
      verdict: "dead",
      why: `It leads from one address to the next more than ${LIMITS.redirects} times.`,
    };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error instanceof TooMuch ? fine : { verdict: "dead", why: error.message };
  }
}

/** Asks for the head alone; servers that do not answer that are asked for the whole. */
async function asked(url: URL, trusted: readonly string[], deadline: number) {
  const ask = (method: "HEAD" | "GET") =>
    send(url, { method, headers: { accept: "*/*" } }, trusted, {
      ms: deadline - Date.now(),
      bytes: LIMITS.bytes,
    });
  const head = await ask("HEAD");
  return head.status < 400 || head.status === 429 ? head : ask("GET");
}

/** What a status says to somebody who wants to send it (RFC 9110, 15.5 and 15.6). */
function told(url: URL, status: number): Pick<LinkTried, "verdict" | "why"> {
  if ([401, 403, 407, 429, 451].includes(status))
    return {
      verdict: "unsure",
      why: `${url.host} answers ${status}: it lets only some look. Open it yourself.`,
    };
  const why =
    status === 404 || status === 410
      ? "there is nothing there. Correct the address."
      : status >= 500
        ? "a fault on its side. Try again later."
        : "which is no page. Look at it yourself.";
  return { verdict: "dead", why: `${url.host} answers ${status}: ${why}` };
}
