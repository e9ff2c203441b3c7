import type { Envelope } from "./document";
import type { Inline } from "./inline";

/** A line of words in the envelope. */
export interface EnvelopeLine {
  /** Where it stands in the envelope. */
  path: string;
  label: string;
  /** Only known while it is sent: it is not translated, and no design is found by it. */
  apart?: true;
  of(envelope: Envelope): readonly Inline[];
}

/** The lines of words in the envelope, in reading order. */
export const ENVELOPE_LINES: readonly EnvelopeLine[] = [
  { path: "subject", label: "Subject", of: ({ subject }) => subject },
  { path: "preheader", label: "Preheader", of: ({ preheader }) => preheader },
  { path: "sender/name", label: "Sender’s name", of: ({ sender }) => sender.name },
  { path: "to", label: "Recipient’s name", apart: true, of: ({ to = [] }) => to },
];

/** What such a line is called within a sentence: "the subject". */
export const inSentence = ({ label }: EnvelopeLine): string =>
  `the ${label[0].toLowerCase()}${label.slice(1)}`;

/** The same where a sentence begins with it. */
export const atStart = (line: EnvelopeLine): string => `T${inSentence(line).slice(1)}`;
