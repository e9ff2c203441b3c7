/** Signatures of a domain on its messages (DKIM: RFC 6376; Ed25519: RFC 8463). Whoever calls brings the arithmetic. */

const ascii = new TextEncoder();
const latin = new TextDecoder("latin1");

export const SIGNING_ALGORITHMS = ["rsa-sha256", "ed25519-sha256"] as const;
export type SigningAlgorithm = (typeof SIGNING_ALGORITHMS)[number];

/** A key that signs for a domain. */
export interface Signer {
  domain: string;
  /** Under which its public half is published: `selector._domainkey.domain`. */
  selector: string;
  algorithm: SigningAlgorithm;
  /** The signature of these octets: RSASSA-PKCS1-v1_5 with SHA-256, or Ed25519 of their SHA-256. */
  sign(octets: Uint8Array): Promise<Uint8Array>;
}

/** The SHA-256 of what was added so far; a copy goes on from where it was copied. */
export interface Hash {
  update(octets: Uint8Array): unknown;
  copy(): Hash;
  digest(): Uint8Array;
}

/** What a signature covers, whether it is there or not: what is not there cannot be added afterwards. */
const COVERED = [
  "From",
  "To",
  "Subject",
  "Date",
  "Message-ID",
  "Reply-To",
  "MIME-Version",
  "Content-Type",
  "Content-Transfer-Encoding",
  "List-Id",
  "List-Unsubscribe",
  "List-Unsubscribe-Post",
  "List-Help",
  "Feedback-ID",
].map((name) => name.toLowerCase());

/** These count twice, so that a second one added before the first breaks the signature (RFC 6376, 8.15). */
const NO_SECOND = ["from", "to", "subject", "date", "reply-to", "content-type"];

/** Where the body begins; the length of a message without one. */
export function bodyAt(message: Uint8Array): number {
  for (let at = 0; at + 3 < message.length; at++) {
    if (message[at] === 13 && message[at + 1] === 10 && message[at + 2] === 13 && message[at + 3] === 10)
      return at + 4;
  }
  return message.length;
}

/** The fields of a head in their "relaxed" form (RFC 6376, 3.4.2), by name in lower case, from the top. */
function relaxedFields(head: string): Map<string, string[]> {
  const fields = new Map<string, string[]>();
  for (const field of head.replace(/\r\n(?=[ \t])/g, "").split("\r\n")) {
    const colon = field.indexOf(":");
    if (colon < 0) continue;
    const name = field.slice(0, colon).trim().toLowerCase();
    const value = field
      .slice(colon + 1)
      .replace(/[ \t]+/g, " ")
      .trim();
    fields.set(name, [...(fields.get(name) ?? []), `${name}:${value}`]);
  }
  return fields;
}

/** How many octets of a body count in the "simple" form: lines with nothing in them at the end do not (RFC 6376, 3.4.3). */
function simpleLength(body: Uint8Array): number {
  let end = body.length;
  while (
    end >= 4 &&
    body[end - 1] === 10 &&
    body[end - 2] === 13 &&
    body[end - 3] === 10 &&
    body[end - 4] === 13
  )
    end -= 2;
  return end;
}

const base64 = (octets: Uint8Array) => btoa(String.fromCharCode(...octets));

/** A long word as lines of a folded field. */
const folded = (word: string) => word.match(/.{1,72}/g)?.join("\r\n ") ?? "";

/** Puts signatures on messages whose bodies may begin alike: that much is hashed once. */
export class Signing {
  private readonly begun: Hash;

  /** @param opening the octets with which each body begins @param hash a SHA-256 that nothing was added to */
  constructor(
    private readonly opening: Uint8Array,
    private readonly hash: Hash,
  ) {
    this.begun = hash.copy();
    this.begun.update(opening);
  }

  /**
   * A message with a `DKIM-Signature` of each key at its top. Its body must be written with CRLF and end with one.
   * @param at milliseconds since 1970, as the signatures say
   */
  async signed(message: Uint8Array, signers: readonly Signer[], at: number): Promise<Uint8Array> {
    if (signers.length === 0) return message;
    const start = bodyAt(message);
    const body = this.bodyHash(message.subarray(start));
    const fields = relaxedFields(latin.decode(message.subarray(0, start)));
    const signatures = await Promise.all(signers.map((signer) => signature(fields, body, signer, at)));
    const top = ascii.encode(signatures.join(""));
    const whole = new Uint8Array(top.length + message.length);
    whole.set(top);
    whole.set(message, top.length);
    return whole;
  }

  private bodyHash(body: Uint8Array): string {
    const { opening } = this;
    const length = simpleLength(body);
    const alike = opening.length <= length && opening.every((octet, at) => octet === body[at]);
    const hash = alike ? this.begun.copy() : this.hash.copy();
    hash.update(body.subarray(alike ? opening.length : 0, length));
    return base64(hash.digest());
  }
}

async function signature(
  fields: ReadonlyMap<string, readonly string[]>,
  body: string,
  { domain, selector, algorithm, sign }: Signer,
  at: number,
): Promise<string> {
  const names = [...COVERED, ...NO_SECOND];
  const begun =
    `DKIM-Signature: v=1; a=${algorithm}; c=relaxed/simple; d=${domain};\r\n` +
    ` s=${selector}; t=${Math.floor(at / 1000)}; bh=${body};\r\n` +
    ` h=${namesFolded(names)};\r\n b=`;
  // Of several fields of one name the last counts first (RFC 6376, 5.4.2).
  const left = new Map([...fields].map(([name, those]) => [name, [...those]]));
  const covered = names.flatMap((name) => left.get(name)?.pop() ?? []).map((field) => `${field}\r\n`);
  const own = relaxedFields(begun).get("dkim-signature")!;
  const given = await sign(ascii.encode(covered.join("") + own));
  return `${begun}${folded(base64(given))}\r\n`;
}

/** The names of fields, a few on each line. */
function namesFolded(names: readonly string[]): string {
  const lines = [""];
  for (const [at, name] of names.entries()) {
    const word = at === names.length - 1 ? name : `${name}:`;
    if (lines.at(-1)!.length + word.length > 72) lines.push("");
    lines[lines.length - 1] += word;
  }
  return lines.join("\r\n ");
}

/** What is published of a key in the DNS: under which name, and what its TXT record says (RFC 6376, 3.6.1; RFC 8463, 4). */
export function keyRecord(key: Pick<Signer, "domain" | "selector" | "algorithm"> & { public: string }): {
  name: string;
  text: string;
} {
  return {
    name: `${key.selector}._domainkey.${key.domain}`,
    text: `v=DKIM1; k=${key.algorithm === "rsa-sha256" ? "rsa" : "ed25519"}; p=${key.public}`,
  };
}

/** The public key that a TXT record publishes; null when it is none, an empty one when it was withdrawn. */
export function publishedKey(text: string): string | null {
  const tags = new Map(
    text.split(";").map((tag) => {
      const [name, ...value] = tag.split("=");
      return [name.trim(), value.join("=").replace(/\s+/g, "")];
    }),
  );
  if (tags.has("v") && tags.get("v") !== "DKIM1") return null;
  return tags.get("p") ?? null;
}
