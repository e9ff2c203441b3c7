/**
 * Messages as bytes (RFC 5322, MIME).
 *
 * `MessageFactory` encodes what all readers share once and then writes one complete message per reader; `Signing` puts a
 * domain's signatures on it; `headerLine` folds and encodes any header; `readReturned` reads what comes back.
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
export {
  decodeWords,
  domainOf,
  encodeWords,
  formatAddress,
  formatDate,
  headerLine,
  signingDomain,
} from "./header";
export { type Headers, MessageFactory, senderOf } from "./message";
export { quotedPrintable } from "./quoted-printable";
export { type DeliveryStatus, type Returned, type ReturnedKind, readReturned, severity } from "./returned";
