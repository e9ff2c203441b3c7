import { createHash, createHmac, timingSafeEqual } from "node:crypto";
import type { SystemAddresses } from "~/core/personal";
import { ReadersRefusal } from "./refusal";
import type { Septima } from "./septima";
import { secretOf } from "./workspace/settings";

/** What is said of an address that was tampered with, or is of what is gone. */
export const incompleteLink = () => new ReadersRefusal("noComplete");

/** What a signed address is for; a signature for one purpose is worth nothing for another. */
type Purpose = "unsubscribe" | "answer" | "join" | "friend" | "letter";

/** The signed addresses of a reader of a campaign. */
type ReaderAddresses = (
  contactId: number,
  campaignId: string,
) => Pick<SystemAddresses, "unsubscribe" | "answer" | "referral">;

/** Makes the signed addresses of readers, once the key is known; each is signed when it is asked for. @param origin where they lead */
export async function readerAddresses(
  septima: Septima,
  origin: string = septima.config.readers,
): Promise<ReaderAddresses> {
  return readerAddressesBy(await secretOf(septima), origin);
}

function readerAddressesBy(secret: string, origin: string): ReaderAddresses {
  const address = (purpose: Purpose, contactId: number, campaignId: string) =>
    `${origin}/${purpose}/${sign(secret, purpose, contactId, campaignId)}`;
  return (contactId, campaignId) => {
    let unsubscribe: string | undefined;
    return {
      // It stands in a head and at a foot.
      get unsubscribe() {
        unsubscribe ??= address("unsubscribe", contactId, campaignId);
        return unsubscribe;
      },
      get answer() {
        return address("answer", contactId, campaignId);
      },
      get referral() {
        return address("join", contactId, campaignId);
      },
    };
  };
}

/** Octets of the signature of each counted address. */
const SIGNED = 8;

/**
 * The signatures of the counted addresses of one reader's message, in one go: octets that are drawn from the key and from
 * whose message it is, so many for each address.
 */
function countedMacs(secret: string, dispatch: string, contact: number, addresses: number): Buffer {
  return createHash("shake256", { outputLength: addresses * SIGNED })
    .update(`${secret} counted ${dispatch} ${contact}`)
    .digest();
}

/** A number in as few octets as it needs, the lowest seven bits first. */
function octetsOf(number: number): number[] {
  const octets: number[] = [];
  for (let left = number; ; left = Math.floor(left / 128)) {
    if (left < 128) return [...octets, left];
    octets.push((left % 128) | 128);
  }
}

/** The addresses of one message of a dispatch that count what its reader does with it. */
type CountedAddresses = (contact: number) => Required<Pick<SystemAddresses, "letter" | "link" | "opening">>;

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

function countedAddressesBy(
  secret: string,
  { origin, dispatch, links }: { origin: string; dispatch: string; links: number },
): CountedAddresses {
  const id = Buffer.from(dispatch, "hex");
  return (contact) => {
    const macs = countedMacs(secret, dispatch, contact, links + 1);
    const token = (number: number) =>
      Buffer.concat([
        macs.subarray(number * SIGNED, (number + 1) * SIGNED),
        Buffer.from([...octetsOf(contact), ...octetsOf(number)]),
        id,
      ]).toString("base64url");
    return {
      get letter() {
        return `${origin}/letter/${sign(secret, "letter", contact, dispatch)}`;
      },
      get opening() {
        return `${origin}/o/${token(0)}.gif`;
      },
      link: (place) => `${origin}/c/${token(place + 1)}`,
    };
  };
}

/** Whose addresses are made: those of the messages of one dispatch, with how many of its links are counted. */
interface MessagesOf {
  origin: string;
  dispatch: string;
  campaign: string;
  links: number;
}

/** All addresses of one message of a dispatch; each is signed when it is asked for, since few messages have them all. */
export async function messageAddresses(
  septima: Septima,
  of: MessagesOf,
): Promise<ReturnType<typeof messageAddressesBy>> {
  return messageAddressesBy(await secretOf(septima), of);
}

/** The same by the key itself, for a process that has nothing else. */
export function messageAddressesBy(
  secret: string,
  of: MessagesOf,
): (contact: number) => Required<SystemAddresses> {
  const own = readerAddressesBy(secret, of.origin);
  const counted = countedAddressesBy(secret, of);
  return (contact) => {
    const [mine, its] = [own(contact, of.campaign), counted(contact)];
    return {
      get unsubscribe() {
        return mine.unsubscribe;
      },
      get answer() {
        return mine.answer;
      },
      get referral() {
        return mine.referral;
      },
      get letter() {
        return its.letter;
      },
      get opening() {
        return its.opening;
      },
      link: its.link,
    };
  };
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

function sign(secret: string, purpose: Purpose, contactId: number, campaignId: string): string {
  const payload = Buffer.from(`${contactId}.${campaignId}`).toString("base64url");
  return `${payload}.${mac(secret, purpose, payload)}`;
}

function mac(secret: string, purpose: Purpose, payload: string): string {
  return createHmac("sha256", secret).update(`${purpose} ${payload}`).digest("base64url").slice(0, 22);
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
