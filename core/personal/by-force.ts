/** For tests: what is counted cleverly elsewhere, by rendering a message for every reader. */
import type { Contact } from "../audience";
import { type Bound, personalise, previewAddresses, readerOf, withoutData } from ".";

/** What a reader gets, with their data named instead of written. */
export function messageOf(bound: Bound, contact: Contact): string {
  const reader = readerOf(contact, bound.language, previewAddresses("https://s.example"));
  return JSON.stringify(personalise(withoutData(bound, contact), reader));
}

/** How many readers get each message, most first. */
export function byForce(bound: Bound, contacts: readonly Contact[]): number[] {
  const counts = new Map<string, number>();
  for (const contact of contacts) {
    const message = messageOf(bound, contact);
    counts.set(message, (counts.get(message) ?? 0) + 1);
  }
  return [...counts.values()].sort((one, other) => other - one);
}
