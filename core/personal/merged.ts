import type { Contact } from "../audience";
import type { Code } from "../program";
import { type Bound, partsOf } from "./bind";
import { type Edition, type EditionCount, editionCounter, editionQuestions, hasWords } from "./editions";
import { givenTo } from "./neutral";
import { hasText, previewAddresses, type Reader, readerOf, slotText } from "./value";

/** Moduli near 2^26, so that a product is exact in a double, and a base for each: 104 bits together. */
const MODULI = [67_108_859, 67_108_837, 67_108_819, 67_108_777] as const;
const BASES = [31_415_927, 27_182_819, 14_142_137, 17_320_507] as const;

/**
 * A text as a polynomial hash (Karp and Rabin, 1987): that of two texts joined follows from those of both, wherever
 * they are cut. `raised` are the bases to the power of its length.
 */
interface Hashed {
  hash: number[];
  raised: number[];
}

function power(base: number, exponent: number, modulus: number): number {
  let result = 1;
  for (let square = base, rest = exponent; rest > 0; square = (square * square) % modulus, rest = rest >>> 1)
    if (rest & 1) result = (result * square) % modulus;
  return result;
}

function hashed(text: string): Hashed {
  const hash = [0, 0, 0, 0];
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at) + 1;
    for (let which = 0; which < 4; which++) hash[which] = (hash[which] * BASES[which] + sign) % MODULI[which];
  }
  return { hash, raised: BASES.map((base, which) => power(base, text.length, MODULI[which])) };
}

/** What no text holds, to tell where a part ends. */
const END: Hashed = { hash: [70_001, 70_003, 70_009, 70_019], raised: [...BASES] };

/** Makes digests of what readers get; what is said alike to many is looked at once. */
function digester(bound: Bound): (contact: Contact) => string {
  const parts = partsOf(bound);
  const statics = new Map<string, Hashed>();
  const of = (text: string) => {
    let known = statics.get(text);
    if (!known) {
      known = hashed(text);
      statics.set(text, known);
    }
    return known;
  };
  const ready = parts.map((code) => code.map((op) => (op.op === "static" ? of(op.text) : null)));
  const run = (code: Code, own: readonly (Hashed | null)[], reader: Reader, state: number[]) => {
    const add = ({ hash, raised }: Hashed) => {
      for (let which = 0; which < 4; which++)
        state[which] = (state[which] * raised[which] + hash[which]) % MODULI[which];
    };
    for (let at = 0; at < code.length; at++) {
      const op = code[at];
      if (op.op === "static") add(own[at] as Hashed);
      else if (op.op === "value") {
        const slot = bound.slots[op.slot];
        add(of(slotText({ ...slot, ...givenTo(slot, reader) }, reader)));
      } else if (op.op === "without") {
        const slot = bound.slots[op.slot];
        if (!hasText({ ...slot, ...givenTo(slot, reader) }, reader)) at = op.to - 1;
      } else if (op.op === "item" || op.op === "fewer" || op.op === "enough") {
        // What is picked for each reader makes no two editions one, nor one two.
        add(of(`${op.op} ${op.list} ${op.op === "item" ? op.place : op.than}`));
      } else if (op.op === "jump" || !bound.rules[op.rule](reader.contact)) at = op.to - 1;
    }
    add(END);
  };
  return (contact) => {
    const reader = readerOf(contact, bound.language, previewAddresses(""));
    const state = [0, 0, 0, 0];
    for (const [at, code] of parts.entries()) run(code, ready[at], reader, state);
    return state.join(".");
  };
}

/**
 * Joins editions that say the same although their readers answered differently, as where two cases of an either/or are the
 * same words. The first of them, which most get, stands for all; `also` are the keys of the others.
 * @param sampleOf a reader of each; without one an edition stays alone
 */
export function joinSame<E extends EditionCount>(
  bound: Bound,
  editions: readonly E[],
  sampleOf: (edition: E) => Contact | undefined,
): (E & { also: string[] })[] {
  // One alone is like no other, and its text need not be looked at.
  if (editions.length < 2) return editions.map((edition) => ({ ...edition, also: [] }));
  const digest = digester(bound);
  const known = new Map<string, E & { also: string[] }>();
  const all: (E & { also: string[] })[] = [];
  for (const edition of editions) {
    const sample = sampleOf(edition);
    const key = sample && digest(sample);
    const same = key === undefined ? undefined : known.get(key);
    if (same) {
      same.count += edition.count;
      same.also.push(edition.key);
      if (same.language !== edition.language) same.language = null;
      continue;
    }
    const own = { ...edition, also: [] };
    all.push(own);
    if (key !== undefined) known.set(key, own);
  }
  return all.sort((a, b) => b.count - a.count || (a.key < b.key ? -1 : 1));
}

/** The editions across contacts that are at hand: the distinct messages, see `editionCounter` and `joinSame`. */
export function editions(bound: Bound, contacts: readonly Contact[]): Edition[] {
  const { fields } = editionQuestions(bound);
  const counter = editionCounter(bound, {
    meets: (rule, at) => bound.rules[rule](contacts[at]),
    writes: (which, at) => fields[which].some((field) => hasWords(field, contacts[at])),
    language(at) {
      const own = contacts[at].fields.language;
      return typeof own === "string" && own !== "" ? own : null;
    },
  });
  counter.take(contacts.keys());
  return joinSame(bound, counter.found(), ({ first }) => contacts[first]).map(({ first, ...edition }) => ({
    ...edition,
    sample: contacts[first],
  }));
}
