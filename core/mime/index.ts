/**
 * Messages as bytes (RFC 5322, MIME).
 *
 * `MessageFactory` encodes what all readers share once and then writes one complete message per reader;
 * `headerLine` folds and encodes any header.
 */
export { asciiDomain, encodeWords, formatAddress, formatDate, headerLine } from "./header";
export { type Delivery, type Headers, MessageFactory } from "./message";
export { quotedPrintable } from "./quoted-printable";
