/** The signed addresses of readers, by the key alone: in whatever process. */
import { createHash, createHmac } from "node:crypto";
import type { SystemAddresses } from "~/core/personal";

/** What a signed address is for; a signature for one purpose is worth nothing for another. */
export type Purpose = "unsubscribe" | "answer" | "join" | "friend" | "letter" | "review";

/** The signed addresses of a reader of a campaign. */
export type ReaderAddresses = (
  contactId: number,
  campaignId: string,
) => Pick<SystemAddresses, "unsubscribe" | "answer" | "referral">;

export function readerAddressesBy(secret: string, origin: string): ReaderAddresses {
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
export const SIGNED = 8;

/**
 * The signatures of the counted addresses of one reader's message, in one go: octets that are drawn from the key and from
 * whose message it is, so many for each address.
 */
export function countedMacs(secret: string, dispatch: string, contact: number, addresses: number): Buffer {
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
export type CountedAddresses = (
  contact: number,
) => Required<Pick<SystemAddresses, "letter" | "link" | "opening">>;

export function countedAddressesBy(
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
export interface MessagesOf {
  origin: string;
  dispatch: string;
  campaign: string;
  links: number;
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

export function sign(secret: string, purpose: Purpose, contactId: number, campaignId: string): string {
  const payload = Buffer.from(`${contactId}.${campaignId}`).toString("base64url");
  return `${payload}.${mac(secret, purpose, payload)}`;
}

export function mac(secret: string, purpose: Purpose, payload: string): string {
  return createHmac("sha256", secret).update(`${purpose} ${payload}`).digest("base64url").slice(0, 22);
}
