/**
 * Messages as bytes (RFC 5322, MIME).
 *
 * `MessageFactory` encodes what all readers share once and then writes one complete message per reader;
 * `headerLine` folds and encodes any header.
 */
export { encodeWords, formatAddress, headerLine } from "./header";
export { type Headers, MessageFactory } from "./message";
export { quotedPrintable } from "./quoted-printable";
