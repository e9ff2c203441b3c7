import type { Life, Living, Manner } from "~/core/sending";

/** A message as a mailbox lists it. */
export interface StoredMessage {
  id: string;
  to: string;
  from: string;
  subject: string;
  messageId: string;
  /** Milliseconds since 1970. */
  at: number;
  /** Octets. */
  size: number;
}

/** The mailboxes behind the relay, when the relay is the postroom. */
export interface Mailboxes {
  /** Newest first; `text` is looked for in address and subject. */
  search(query: {
    text: string;
    offset: number;
    limit: number;
  }): Promise<{ total: number; messages: StoredMessage[] }>;
  /** The message as it came over the wire, or null. */
  source(id: string): Promise<Buffer | null>;
  /** Which of these Message-IDs have arrived; those that have not are not taken any more, so that the answer stays true. */
  arrivedOrNever(messageIds: readonly string[]): Promise<Set<string>>;
  /** Throws all messages away. */
  empty(): Promise<void>;
  /** How they behave that do not simply take what comes. */
  manners(): Promise<readonly Manner[]>;
  /** Lets them behave so from now on. */
  behave(manners: readonly Manner[]): Promise<void>;
  /** How their readers live, and what they have done. */
  living(): Promise<Living>;
  /** Lets them live so from now on; null lets them be. */
  live(life: Life | null): Promise<void>;
}
