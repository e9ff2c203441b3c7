const utf8 = new TextEncoder();

/** Base64 of octets, without any platform's help for binary strings over a few kilobytes. */
function base64(octets: Uint8Array): string {
  return btoa(String.fromCharCode(...octets));
}

/** Control characters have no place in a header: they become spaces, so that no value can start a new line. */
function clean(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, " ").trim();
}

/** Printable ASCII without signs that could be taken for an encoded word. */
function isPlain(text: string): boolean {
  return /^[\x20-\x7e]*$/.test(text) && !text.includes("=?");
}

/**
 * Text as encoded words of at most 75 characters (RFC 2047), split between characters; plain ASCII stays. By hand: what
 * mail libraries have for it stands on Node, and this room on nothing.
 */
export function encodeWords(text: string): string {
  const words = clean(text);
  if (isPlain(words)) return words;
  const encoded: string[] = [];
  let chunk = "";
  let octets = 0;
  for (const character of words) {
    const size = utf8.encode(character).length;
    if (octets + size > 42) {
      encoded.push(`=?UTF-8?B?${base64(utf8.encode(chunk))}?=`);
      chunk = "";
      octets = 0;
    }
    chunk += character;
    octets += size;
  }
  if (chunk !== "") encoded.push(`=?UTF-8?B?${base64(utf8.encode(chunk))}?=`);
  return encoded.join(" ");
}

/** What stands behind the @ of an address. */
export const domainOf = (address: string): string => address.slice(address.lastIndexOf("@") + 1);

/** The domain that a message from an address is signed for, as the DNS writes it. */
export const signingDomain = (address: string): string => domainOf(asciiDomain(address)).toLowerCase();

/** The domain of an address in ASCII (IDNA), the rest untouched. */
function asciiDomain(address: string): string {
  const at = address.lastIndexOf("@");
  const domain = address.slice(at + 1);
  if (/^[\x21-\x7e]*$/.test(domain)) return address;
  try {
    return `${address.slice(0, at + 1)}${new URL(`http://${domain}`).hostname}`;
  } catch {
    return address;
  }
}

/** `Name <address>` for From and To; the name is quoted or encoded as it needs, and left out when empty. */
export function formatAddress(name: string, address: string): string {
  const mailbox = clean(asciiDomain(address)).replace(/[<>\s]/g, "");
  const words = clean(name);
  if (words === "" || words === address) return mailbox;
  if (!isPlain(words)) return `${encodeWords(words)} <${mailbox}>`;
  const phrase = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~ -]+$/.test(words)
    ? words
    : `"${words.replace(/(["\\])/g, "\\$1")}"`;
  return `${phrase} <${mailbox}>`;
}

/** A date as RFC 5322 writes it, in UTC. */
export function formatDate(epochMilliseconds: number): string {
  return new Date(epochMilliseconds).toUTCString().replace("GMT", "+0000");
}

/** One header with CRLF, folded at spaces to lines of at most 78 characters where there are any. */
export function headerLine(name: string, value: string): string {
  const whole = clean(value);
  if (name.length + 2 + whole.length <= 78) return `${name}: ${whole}\r\n`;
  const words = whole.split(" ");
  let line = `${name}:`;
  let text = "";
  for (const word of words) {
    if (line.length + 1 + word.length > 78 && line.trim() !== "" && line !== `${name}:`) {
      text += `${line}\r\n`;
      line = "";
    }
    line += ` ${word}`;
  }
  return `${text}${line}\r\n`;
}

/** The octets of what an encoded word holds, by “Q” or “B”. */
function octetsIn(encoding: string, content: string): Uint8Array {
  const text =
    encoding.toLowerCase() === "b"
      ? atob(content.replace(/[^A-Za-z0-9+/]/g, ""))
      : content
          .replace(/_/g, " ")
          .replace(/=([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));
  return Uint8Array.from(text, (sign) => sign.charCodeAt(0));
}

/**
 * Text with its encoded words decoded (RFC 2047); white space between two of them does not count. What cannot be decoded
 * stays as it is.
 */
export function decodeWords(text: string): string {
  return text
    .replace(/(=\?[^?]+\?[bq]\?[^?]*\?=)\s+(?==\?[^?]+\?[bq]\?)/gi, "$1")
    .replace(
      /=\?([^?*]+)(?:\*[^?]*)?\?([bq])\?([^?]*)\?=/gi,
      (all, charset: string, encoding: string, content: string) => {
        try {
          return new TextDecoder(charset).decode(octetsIn(encoding, content));
        } catch {
          return all;
        }
      },
    );
}
