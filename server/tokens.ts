import { createHmac, timingSafeEqual } from "node:crypto";
import {
  type CountedAddresses,
  countedAddressesBy,
  countedMacs,
  type MessagesOf,
  mac,
  messageAddressesBy,
  type Purpose,
  type ReaderAddresses,
  readerAddressesBy,
  SIGNED,
  sign,
} from "./addresses";
import { ReadersRefusal } from "./refusal";
import type { Septima } from "./septima";
import { secretOf } from "./workspace/settings";

/** What is said of an address that was tampered with, or is of what is gone. */
export const incompleteLink = () => new ReadersRefusal("noComplete");

/** Makes the signed addresses of readers, once the key is known; each is signed when it is asked for. @param origin where they lead */
export async function readerAddresses(
  septima: Septima,
  origin: string = septima.config.readers,
): Promise<ReaderAddresses> {
  return readerAddressesBy(await secretOf(septima), origin);
}

/**
 * The addresses of one message of a dispatch: of itself in a browser, and those that count what its reader does with it, of
 * each link by its place, and of the picture whose fetching is an opening.
 * @param links how many links are counted
 */
export async function countedAddresses(
  septima: Septima,
  of: { origin: string; dispatch: string; links: number },
): Promise<CountedAddresses> {
  return countedAddressesBy(await secretOf(septima), of);
}

/** All addresses of one message of a dispatch; each is signed when it is asked for, since few messages have them all. */
export async function messageAddresses(
  septima: Septima,
  of: MessagesOf,
): Promise<ReturnType<typeof messageAddressesBy>> {
  return messageAddressesBy(await secretOf(septima), of);
}

/** So many links at most are counted in a message. */
const MOST_LINKS = 10_000;

/**
 * Whose message a counted address is of, and which of them it is: 0 the opening, then the links.
 * @throws Refusal (404) for one that was tampered with
 */
export async function readCounted(
  septima: Septima,
  token: string,
): Promise<{ dispatch: string; contact: number; number: number }> {
  const octets = /^[\w-]{12,200}$/.test(token) ? Buffer.from(token, "base64url") : Buffer.alloc(0);
  let at = SIGNED;
  const next = () => {
    let number = 0;
    for (let place = 1; at < octets.length && place <= 128 ** 4; place *= 128) {
      const octet = octets[at++];
      number += (octet & 127) * place;
      if (octet < 128) return number;
    }
    return Number.NaN;
  };
  const [contact, number] = [next(), next()];
  const dispatch = octets.subarray(at).toString("hex");
  const expected =
    number <= MOST_LINKS
      ? countedMacs(await secretOf(septima), dispatch, contact, number + 1).subarray(number * SIGNED)
      : Buffer.alloc(0);
  // What is written in another way than we write it is not ours either.
  if (
    expected.length !== SIGNED ||
    octets.toString("base64url") !== token ||
    !timingSafeEqual(octets.subarray(0, SIGNED), expected)
  )
    throw incompleteLink();
  return { dispatch, contact, number };
}

/** The address by which a friend confirms that they asked for letters. */
export async function friendAddress(septima: Septima, referral: string): Promise<string> {
  return `${septima.config.readers}/join/confirm/${sign(await secretOf(septima), "friend", 0, referral)}`;
}

/** The address by which somebody who was asked looks a campaign over, without signing in; a page of the interface, though. */
export async function reviewAddress(septima: Septima, review: string): Promise<string> {
  return `${septima.config.origin}/review/${sign(await secretOf(septima), "review", 0, review)}`;
}

/** Letters and digits that stay what they are whoever writes them large or small (RFC 4648, 6). */
const BASE32 = "abcdefghijklmnopqrstuvwxyz234567";

/** A signature of 80 bits for what may be written large or small. */
function macInAddress(secret: string, words: string): string {
  const octets = createHmac("sha256", secret).update(`return ${words}`).digest();
  return Array.from({ length: 16 }, (_, at) => {
    const bit = at * 5;
    return BASE32[(((octets[bit >> 3] << 8) | octets[(bit >> 3) + 1]) >> (11 - (bit & 7))) & 31];
  }).join("");
}

/** The local parts of the return paths of a dispatch, once the key is known: who a message is for that comes back. */
export async function returnPaths(septima: Septima, dispatch: string): Promise<(contact: number) => string> {
  const secret = await secretOf(septima);
  return (contact) => {
    const words = `${dispatch}-${contact.toString(36)}`;
    return `r-${words}-${macInAddress(secret, words)}`;
  };
}

/** Whose return path an address is; null when it is none, or was made by somebody else. */
export async function readReturnPath(
  septima: Septima,
  address: string,
): Promise<{ dispatch: string; contact: number } | null> {
  const [, words, dispatch, contact, given] =
    /^r-(([a-z0-9]{1,40})-([a-z0-9]{1,8}))-([a-z2-7]{16})@/.exec(address.toLowerCase()) ?? [];
  if (given === undefined) return null;
  const expected = macInAddress(await secretOf(septima), words);
  if (!timingSafeEqual(Buffer.from(given), Buffer.from(expected))) return null;
  return { dispatch, contact: Number.parseInt(contact, 36) };
}

/**
 * Whom and which campaign a signed address belongs to.
 * @throws Refusal (404) for one that was tampered with or signed for something else
 */
export async function readToken(
  septima: Septima,
  purpose: Purpose,
  token: string,
): Promise<{ contact: number; campaign: string }> {
  const [payload = "", signature = ""] = token.split(".");
  const expected = Buffer.from(mac(await secretOf(septima), purpose, payload));
  const given = Buffer.from(signature);
  if (given.length !== expected.length || !timingSafeEqual(given, expected)) {
    throw incompleteLink();
  }
  const [contact, campaign] = Buffer.from(payload, "base64url").toString().split(".");
  return { contact: Number(contact), campaign };
}
