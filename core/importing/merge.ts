/** What a line of a file comes to for a contact, and how lines are counted. */
import { type ContactState, change, type FieldValue, type Wanted } from "../audience";
import type { Given, LineRead, Plan } from "./plan";

const lacks = (value: unknown) =>
  value === undefined || value === null || value === "" || (Array.isArray(value) && value.length === 0);

/**
 * What a contact is to be after a line.
 * @param contact null for somebody who is not there yet
 * @param join the lists they are put on
 */
export function wantedFrom(
  given: Given,
  plan: Plan,
  contact: ContactState | null,
  join: readonly string[],
): Wanted {
  if (contact && plan.known === "keep") return {};
  const fields: Record<string, FieldValue> = {};
  for (const [key, value] of Object.entries(given.fields))
    if (!contact || plan.known === "update" || lacks(contact.fields[key])) fields[key] = value;
  // How they agreed is said of those who come in now; what is known of others stays.
  const { source, date } = plan.consent;
  if (source.trim() !== "" && lacks(contact?.fields.consent_source)) {
    fields.consent_source ??= source.trim();
    if (date !== "") fields.consent_date ??= date;
  }
  return {
    fields,
    join,
    // A file can say that somebody must not be written to; never that they may again.
    ...(given.status && (!contact || contact.status === "subscribed") && { status: given.status }),
    ...(contact?.status === "removed" && { status: given.status ?? "unsubscribed" }),
  };
}

/** What becomes of the lines of a file. */
export interface ImportCounts {
  /** Contacts that are not there yet. */
  made: number;
  /** Contacts that are there and get something new. */
  changed: number;
  /** Contacts that are there and have it all. */
  same: number;
  /** Of those that are there, who cannot be written to and stay so. */
  suppressed: number;
  /** Lines about an address that came before in the file. */
  again: number;
  rejected: number;
  /** Lines that are taken without something that does not fit. */
  lessened: number;
  /** Lines that were looked at. */
  seen: number;
  [key: string]: number;
}

/** Counts lines one by one, the same before an import and in it. */
export class Tally {
  readonly counts: ImportCounts = {
    made: 0,
    changed: 0,
    same: 0,
    suppressed: 0,
    again: 0,
    rejected: 0,
    lessened: 0,
    seen: 0,
  };
  private readonly addresses = new Set<string>();

  /** A line was read. */
  line(read: LineRead): void {
    this.counts.seen += 1;
    if ("reason" in read) this.counts.rejected += 1;
    else if (read.left.length > 0) this.counts.lessened += 1;
  }

  /** A line that is taken meets a contact, or nobody yet. */
  meets(address: string, contact: ContactState | null, wanted: Wanted): void {
    const { counts, addresses } = this;
    if (addresses.has(address)) counts.again += 1;
    else if (!contact) counts.made += 1;
    else {
      if (contact.status !== "subscribed") counts.suppressed += 1;
      if (change(contact, wanted)) counts.changed += 1;
      else counts.same += 1;
    }
    addresses.add(address);
  }
}
