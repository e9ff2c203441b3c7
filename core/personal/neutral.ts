import type { Contact } from "../audience";
import type { Slot } from "../program";
import type { Bound } from "./bind";
import { isAlwaysThere } from "./editions";
import { isCode, previewAddresses, type Reader, readerOf, tagValue } from "./value";

/** How data of a reader is named where it itself is of no interest. */
const nameOfData = (field: string): string => `‹${field.replaceAll(/[_.]/g, " ")}›`;

/** What a slot writes where data is named: its name, or what is said to those who lack it. Empty for what all get alike. */
export function givenTo(slot: Slot, reader: Reader): Partial<Slot> {
  if (isCode(slot.field)) return { given: nameOfData(slot.field) };
  if (isAlwaysThere(slot.field)) return {};
  return { or: undefined, given: tagValue(slot, reader) === null ? slot.fallback : nameOfData(slot.field) };
}

/**
 * The same design with the data of a reader named instead of written, so that what is the same for all readers of an
 * edition is the same text. What they lack is what is said in its place.
 */
export function withoutData(bound: Bound, contact: Contact): Bound {
  const reader = readerOf(contact, bound.language, previewAddresses(""));
  return { ...bound, slots: bound.slots.map((slot) => ({ ...slot, ...givenTo(slot, reader) })) };
}
