/**
 * What comes back: delivery status notifications (RFC 3464), abuse reports (RFC 5965), answers and what answers by itself
 * (RFC 3834), read from a message as it arrived. Nothing in it is trusted: who it is about is for others to prove.
 */
import { decodeWords } from "./header";

/** What a notification says of one address. */
export interface DeliveryStatus {
  address: string;
  action: string;
  /** The enhanced code (RFC 3463), the one of the other side before the general one; empty when there is none. */
  status: string;
  /** In the words of the other side. */
  words: string;
}

export type ReturnedKind = "bounce" | "delay" | "delivered" | "complaint" | "automatic" | "reply";

export interface Returned {
  kind: ReturnedKind;
  from: string;
  subject: string;
  /** Of a bounce, a delay or a delivery: what is said of each address. */
  statuses: DeliveryStatus[];
  /** Of a complaint its kind, as `abuse`. */
  feedback: string;
  /** Message-IDs that it says it is about, without angle brackets. */
  about: string[];
  /** Addresses it says it was sent to or by whose return path it came. */
  addresses: string[];
}

interface Part {
  fields: Map<string, string[]>;
  body: string;
}

/** Not more than so much of a message is looked at, in octets. */
const MOST = 1_000_000;
/** So deep parts stand in each other, and so many are looked at. */
const DEEPEST = 8;
const MOST_PARTS = 60;

/** The fields at the beginning of a text, by name in lower case, unfolded, each in order. */
function readFields(text: string): Map<string, string[]> {
  const fields = new Map<string, string[]>();
  for (const field of text.replace(/\r?\n[ \t]+/g, " ").split(/\r?\n/)) {
    const colon = field.indexOf(":");
    if (colon < 1) continue;
    const name = field.slice(0, colon).trim().toLowerCase();
    fields.set(name, [...(fields.get(name) ?? []), field.slice(colon + 1).trim()]);
  }
  return fields;
}

function readPart(text: string): Part {
  const end = /\r?\n\r?\n/.exec(text);
  if (/^\r?\n/.test(text)) return { fields: new Map(), body: text.replace(/^\r?\n/, "") };
  if (!end) return { fields: readFields(text), body: "" };
  return { fields: readFields(text.slice(0, end.index)), body: text.slice(end.index + end[0].length) };
}

const first = ({ fields }: Part, name: string) => fields.get(name)?.[0] ?? "";

/** A part's type, `text/plain` where it says none. */
const typeOf = (part: Part) =>
  /^\s*([\w.+-]+\/[\w.+-]+)/.exec(first(part, "content-type"))?.[1].toLowerCase() ?? "text/plain";

/** A parameter of a part's type. */
function parameter(part: Part, name: string): string {
  const found = new RegExp(`;\\s*${name}\\s*=\\s*(?:"([^"]*)"|([^\\s;]+))`, "i").exec(
    first(part, "content-type"),
  );
  return found?.[1] ?? found?.[2] ?? "";
}

/** A part's text as it was before it was encoded; octets stay octets. */
function decoded(part: Part): string {
  const encoding = first(part, "content-transfer-encoding").trim().toLowerCase();
  if (encoding === "base64") {
    try {
      return atob(part.body.replace(/[^A-Za-z0-9+/]/g, ""));
    } catch {
      return "";
    }
  }
  if (encoding !== "quoted-printable") return part.body;
  return part.body
    .replace(/=\r?\n/g, "")
    .replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));
}

/** The parts of a part that is made of several, and those of these. */
function partsOf(part: Part, found: Part[] = [], depth = 0): Part[] {
  if (found.length >= MOST_PARTS || depth > DEEPEST) return found;
  const boundary = parameter(part, "boundary");
  if (!typeOf(part).startsWith("multipart/") || boundary === "") {
    found.push(part);
    return found;
  }
  const pieces = part.body.split(
    new RegExp(`(?:^|\\r?\\n)--${boundary.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&")}`),
  );
  for (const piece of pieces.slice(1)) {
    if (piece.startsWith("--")) break;
    partsOf(readPart(piece.replace(/^[ \t]*\r?\n/, "")), found, depth + 1);
  }
  return found;
}

/** An address out of a field such as `rfc822; <a@b.example>`. */
function addressIn(field: string): string {
  const bare = field.includes(";") ? field.slice(field.indexOf(";") + 1) : field;
  return (/<([^<>\s]*)>/.exec(bare)?.[1] ?? bare.trim()).replace(/\s.*$/s, "");
}

const idsIn = (words: string) => [...words.matchAll(/<([^<>\s]+@[^<>\s]+)>/g)].map(([, id]) => id);

const ENHANCED = /\b([245]\.\d{1,3}\.\d{1,3})\b/;

/** The groups of fields of a delivery status: of the message, then of each address (RFC 3464, 2.1). */
function statusesIn(text: string): DeliveryStatus[] {
  return text
    .split(/\r?\n[ \t]*\r?\n/)
    .map(readFields)
    .filter((fields) => fields.has("final-recipient") || fields.has("original-recipient"))
    .map((fields) => {
      const one = (name: string) => fields.get(name)?.[0] ?? "";
      const words = one("diagnostic-code").replace(/^[\w-]+\s*;\s*/, "");
      const said = ENHANCED.exec(one("status"))?.[1] ?? "";
      const inWords = ENHANCED.exec(words)?.[1];
      // “Something else” says less than the words of the other side do (RFC 3463, 3.1).
      const vague = said === "" || said.endsWith(".0.0");
      return {
        address: addressIn(one("final-recipient") || one("original-recipient")),
        action: one("action").toLowerCase().trim(),
        status: vague && inWords ? inWords : said,
        words: words.slice(0, 500),
      };
    });
}

/** Reads what came back. @param source octets as they arrived; more than a million are not looked at */
export function readReturned(source: Uint8Array): Returned {
  const whole = readPart(new TextDecoder("latin1").decode(source.subarray(0, MOST)));
  const parts = partsOf(whole);
  const ofType = (...types: string[]) => parts.filter((part) => types.includes(typeOf(part)));
  const statuses = ofType("message/delivery-status", "message/global-delivery-status").flatMap((part) =>
    statusesIn(decoded(part)),
  );
  const [report] = ofType("message/feedback-report").map((part) => readFields(decoded(part)));
  const originals = ofType(
    "message/rfc822",
    "text/rfc822-headers",
    "message/global",
    "message/global-headers",
    "message/rfc822-headers",
  ).map((part) => readPart(decoded(part)));
  const about = [
    ...originals.flatMap((original) => idsIn(first(original, "message-id"))),
    ...idsIn(first(whole, "in-reply-to")),
    ...idsIn(first(whole, "references")).reverse(),
  ];
  const addresses = [
    ...["delivered-to", "x-original-to", "envelope-to", "to"].flatMap((name) => whole.fields.get(name) ?? []),
    ...originals.flatMap((original) => original.fields.get("return-path") ?? []),
    ...(report?.get("original-mail-from") ?? []),
  ].map(addressIn);
  return {
    kind: kindOf(whole, statuses, report !== undefined),
    from: addressIn(first(whole, "from")),
    subject: decodeWords(first(whole, "subject")).slice(0, 500),
    statuses,
    feedback: report?.get("feedback-type")?.[0]?.toLowerCase().trim() ?? "",
    about: [...new Set(about)].slice(0, 20),
    addresses: [...new Set(addresses.filter((address) => address.includes("@")))].slice(0, 20),
  };
}

function kindOf(whole: Part, statuses: readonly DeliveryStatus[], isReport: boolean): ReturnedKind {
  if (isReport) return "complaint";
  if (statuses.length > 0) {
    const actions = new Set(statuses.map(({ action }) => action));
    if (actions.has("failed")) return "bounce";
    return actions.has("delayed") ? "delay" : "delivered";
  }
  const automatic = first(whole, "auto-submitted").toLowerCase();
  const byItself =
    (automatic !== "" && !automatic.startsWith("no")) ||
    /^(bulk|junk|list|auto_reply)/i.test(first(whole, "precedence")) ||
    first(whole, "return-path").trim() === "<>";
  return byItself ? "automatic" : "reply";
}

/** What of an address is wrong for good: the mailbox or its domain is not there or takes nothing any more (RFC 3463). */
const GONE = /^5\.(1\.(0|1|2|3|6|10)|2\.1)$/;
/** The reply codes that say so where no enhanced one does (RFC 5321, 4.2.3). */
const GONE_REPLY = /^(550|551|553)\b/;

/**
 * How bad a failed delivery is: `gone` when the address itself takes no mail any more, `soft` for all that may be otherwise
 * another time, such as a full mailbox or what a filter thinks.
 */
export function severity({ status, words }: DeliveryStatus): "gone" | "soft" {
  if (status === "" || status === "5.0.0") return GONE_REPLY.test(words) ? "gone" : "soft";
  return GONE.test(status) ? "gone" : "soft";
}
