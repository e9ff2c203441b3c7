/** What a rule over items means for readers, as a bit for each item. */
import { type AudienceContext, type Contact, fieldValue, fold, predicate } from "../audience";
import type { Item } from "../items";
import { asAsked, type ItemRule, itemValue, type LikeRule, readerFields } from "./rule";

/** Which of some items, in an order, are meant: a bit for each. */
export type Meant = Uint32Array;

/** Shows the places that are meant, in order, until `show` says that it is enough. */
export function each(meant: Meant, count: number, show: (at: number) => boolean): void {
  for (let word = 0; word < meant.length; word++) {
    let bits = meant[word];
    while (bits !== 0) {
      const bit = 31 - Math.clz32(bits & -bits);
      const at = word * 32 + bit;
      if (at >= count || show(at)) return;
      bits = (bits & (bits - 1)) >>> 0;
    }
  }
}

/** So many words of 32 items are kept of what a rule means for readers. */
const KEPT = 4_000_000;

/** What a rule means for a reader; what is the same for all is worked out once. */
export function meaning(
  rule: ItemRule,
  items: readonly Item[],
  audience: Pick<AudienceContext, "today">,
): (contact: Contact) => Meant {
  const size = Math.ceil(items.length / 32);
  const where = (test: (item: Item) => boolean): Meant => {
    const meant = new Uint32Array(size);
    for (const [at, item] of items.entries()) if (test(item)) meant[at >>> 5] |= 1 << (at & 31);
    return meant;
  };
  type Means = { always: Meant } | { own: (contact: Contact) => Meant };
  const of = (means: Means, contact: Contact) => ("always" in means ? means.always : means.own(contact));
  const joined = (parts: readonly Meant[], kind: "all" | "any" | "none"): Meant => {
    const meant = new Uint32Array(size).fill(kind === "all" ? 0xffffffff : 0);
    for (const part of parts)
      for (let word = 0; word < size; word++)
        if (kind === "all") meant[word] &= part[word];
        else meant[word] |= part[word];
    if (kind === "none") for (let word = 0; word < size; word++) meant[word] = ~meant[word];
    return meant;
  };
  const read = (part: ItemRule): Means => {
    if ("of" in part) {
      const parts = part.of.map(read);
      const { kind } = part;
      const fixed = parts.flatMap((one) => ("always" in one ? [one.always] : []));
      if (fixed.length === parts.length) return { always: joined(fixed, kind) };
      return {
        own: (contact) =>
          joined(
            parts.map((one) => of(one, contact)),
            kind,
          ),
      };
    }
    if (part.kind === "like") return { own: likeness(part, where) };
    const test = predicate(part, { ...audience, segments: new Map() });
    return { always: where((item) => test(asAsked(item))) };
  };
  const means = read(rule);
  // Readers who have the same in all that is compared are meant the same.
  const fields = readerFields(rule);
  const keyOf = (contact: Contact) =>
    fields.length === 1
      ? valueKey(fieldValue(contact, fields[0]))
      : fields.map((field) => valueKey(fieldValue(contact, field))).join("\n");
  const known = new Map<string, Meant>();
  return (contact) => {
    if ("always" in means) return means.always;
    const key = keyOf(contact);
    let meant = known.get(key);
    if (!meant) {
      meant = means.own(contact);
      if ((known.size + 1) * size > KEPT) known.clear();
      known.set(key, meant);
    }
    return meant;
  };
}

/** A value as a text that is the same only for the same value. */
const valueKey = (value: unknown): string =>
  typeof value === "string" ? `"${value}` : (JSON.stringify(value) ?? "");

/** The words of a value, folded; none of what has none. */
function wordsOf(value: unknown): string[] {
  const all = Array.isArray(value) ? value : [value];
  return all.filter((one): one is string => typeof one === "string" && one !== "").map(fold);
}

/** Amounts that can be compared: numbers, and days as they are written. */
type Amount = number | string;
const amountOf = (value: unknown): Amount | null =>
  typeof value === "number" || (typeof value === "string" && value !== "") ? value : null;

/** Whether a comparison of an item with what a reader has holds. */
function holds(rule: LikeRule, item: Item, own: unknown): boolean {
  const value = itemValue(item, rule.field);
  if (rule.op === "shares" || rule.op === "sharesNot") {
    const wanted = new Set(wordsOf(own));
    return wordsOf(value).some((word) => wanted.has(word)) === (rule.op === "shares");
  }
  const [has, bound] = [amountOf(value), amountOf(own)];
  if (has === null || bound === null || typeof has !== typeof bound) return false;
  return rule.op === "atLeast" ? has >= bound : has <= bound;
}

function likeness(rule: LikeRule, where: (test: (item: Item) => boolean) => Meant) {
  const known = new Map<string, Meant>();
  return (contact: Contact): Meant => {
    const own = fieldValue(contact, rule.reader);
    const key = valueKey(own);
    let meant = known.get(key);
    if (!meant) {
      meant = where((item) => holds(rule, item, own));
      if ((known.size + 1) * meant.length > KEPT) known.clear();
      known.set(key, meant);
    }
    return meant;
  };
}
