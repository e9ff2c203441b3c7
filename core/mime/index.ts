/**
 * Messages as bytes (RFC 5322, MIME).
 *
 * `MessageFactory` encodes what all readers share once and then writes one complete message per reader; `Signing` puts a
 * domain's signatures on it; `headerLine` folds and encodes any header.
 */
export {
  type Hash,
  keyRecord,
  publishedKey,
  SIGNING_ALGORITHMS,
  type Signer,
  Signing,
  type SigningAlgorithm,
} from "./dkim";
export { domainOf, encodeWords, formatAddress, headerLine, signingDomain } from "./header";
export { type Headers, MessageFactory, senderOf } from "./message";
export { quotedPrintable } from "./quoted-printable";
