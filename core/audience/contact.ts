import { z } from "zod";
import type { History } from "./history";

const FIELD_KINDS = ["text", "choice", "number", "money", "date", "boolean", "set", "record"] as const;
/**
 * What a field holds. `choice` is one of some words, `set` any number of them, such as interests; `money` is a number of
 * the field's currency; `record` is the id of a record in a table of the workspace's own.
 */
export type FieldKind = (typeof FIELD_KINDS)[number];

/** A stored value: dates are `YYYY-MM-DD`, sets are arrays of strings. */
export type FieldValue = string | number | boolean | string[] | null;

/** The key of a field: also the name of its merge tag. */
export const FieldKeySchema = z.string().regex(/^[a-z][a-z0-9_]{0,59}$/);

export const FieldDefSchema = z.object({
  key: FieldKeySchema,
  label: z.string().trim().min(1).max(100),
  kind: z.enum(FIELD_KINDS),
  /** What `choice` and `set` may hold; of a `record` the records there are. */
  options: z
    .array(z.object({ value: z.string().min(1).max(500), label: z.string().min(1).max(500) }))
    .optional(),
  /** Of money: its code (ISO 4217). */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  /** Of a record: the table it is in. */
  table: z.string().optional(),
});
export type FieldDef = z.infer<typeof FieldDefSchema>;

/** Whether somebody may be written to; only those who are subscribed may. Who was removed is out of sight. */
export const STATUSES = ["subscribed", "unsubscribed", "bounced", "complained", "removed"] as const;
export type ContactStatus = (typeof STATUSES)[number];

/** One person in the audience. `fields` may hold anything an import brought in; readers of it check the type. */
export interface Contact {
  id: number;
  email: string;
  /** Their own, and the facts of the records they point to. */
  fields: Readonly<Record<string, unknown>>;
  /** Ids of the lists the contact is on. */
  lists: readonly string[];
  /** Subscribed when missing. */
  status?: ContactStatus;
  /** What they did; only there where a rule may ask for it. */
  history?: History;
}

/** The fields every workspace has. */
export const BASE_FIELDS: readonly FieldDef[] = [
  { key: "email", label: "Email address", kind: "text" },
  { key: "first_name", label: "First name", kind: "text" },
  { key: "last_name", label: "Last name", kind: "text" },
  {
    key: "language",
    label: "Language",
    kind: "choice",
    options: [
      { value: "en", label: "English" },
      { value: "fr", label: "French" },
      { value: "de", label: "German" },
    ],
  },
  { key: "time_zone", label: "Time zone", kind: "text" },
  { key: "birthday", label: "Birthday", kind: "date" },
  { key: "joined", label: "Joined", kind: "date" },
  { key: "consent_source", label: "Consent given through", kind: "text" },
  { key: "consent_date", label: "Consent given on", kind: "date" },
];

/** The raw value of a field; the address is a field like any other. */
export function fieldValue(contact: Contact, key: string): unknown {
  return key === "email" ? contact.email : contact.fields[key];
}

/** Whether somebody has nothing in a field, so that a tag needs its fallback. */
export function lacksField(contact: Contact, key: string): boolean {
  const value = fieldValue(contact, key);
  return value === undefined || value === null || value === "";
}

/** The name as people write it, or the address for those who gave none. */
export function contactName(contact: Contact): string {
  const parts = [contact.fields.first_name, contact.fields.last_name]
    .filter((part): part is string => typeof part === "string")
    .map((part) => part.replace(/[\u0000-\u001f\u007f]+/g, " ").trim())
    .filter((part) => part !== "");
  return parts.length > 0 ? parts.join(" ") : contact.email;
}

/**
 * Whether a string can stand as an address in an SMTP envelope: an ASCII dot-atom before the @, a domain with
 * a dot after it, also an international one (RFC 5321, 4.1.2, without quoted local parts and address literals),
 * no more than 254 octets.
 */
export function isAddress(text: string): boolean {
  if (new TextEncoder().encode(text).length > 254) return false;
  const at = text.lastIndexOf("@");
  if (at < 1 || at > 64) return false;
  const atom = /^[a-z0-9!#$%&'*+/=?^_`{|}~-]+(\.[a-z0-9!#$%&'*+/=?^_`{|}~-]+)*$/i;
  const domain = /^([\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+[\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?$/u;
  return atom.test(text.slice(0, at)) && domain.test(text.slice(at + 1));
}

/**
 * Reads addresses as people type them: parted by commas, semicolons, spaces or lines, with or without
 * `Name <address>`. Returns the good ones once each, and what could not be read, word for word.
 */
export function parseAddresses(text: string): { addresses: string[]; mistakes: string[] } {
  const addresses = new Map<string, string>();
  const mistakes: string[] = [];
  const add = (word: string) => {
    if (isAddress(word)) addresses.set(word.toLowerCase(), word);
    else mistakes.push(word);
  };
  for (const piece of text.split(/[,;\n\r]+/)) {
    const named = /<([^<>]*)>\s*$/.exec(piece);
    if (named) add(named[1].trim());
    else for (const word of piece.split(/\s+/)) if (word !== "") add(word);
  }
  return { addresses: [...addresses.values()], mistakes };
}
