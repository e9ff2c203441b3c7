import { z } from "zod";
import { CHILDREN, canonical, same, valueAt, withValueAt } from "../../email";
import { mergeValue } from "../merge-value";
import type { Clash, SetStep } from "../step";
import { mustHave, type StepKind, StrayStep } from "./kind";

const where = { id: z.string().nullable(), path: z.string() };
const WholeSchema = z.object({ op: z.literal("set"), ...where, after: z.unknown().optional() });
/** Of a value that changed a little only the changed run of its text is sent. */
const SpliceSchema = z.object({
  op: z.literal("splice"),
  ...where,
  /** Of the value's canonical text: from where, how much goes, and what comes; in UTF-16 units. */
  from: z.number().int().min(0),
  cut: z.number().int().min(0),
  put: z.string(),
});
const schema = z.union([WholeSchema, SpliceSchema]);

/** A property becomes another. */
export const setKind: StepKind<SetStep, z.infer<typeof schema>> = {
  apply: (flat, { id, path, after }) => flat.setOwn(id, withValueAt(flat.ownOf(id), path, after)),
  inverted: (step) => ({ ...step, before: step.after, after: step.before }),
  rebase({ flat, clashes, touched }, { id, path, before, after }) {
    const clash = (reason: Clash["reason"], at: string, mine: unknown, theirs: unknown) => {
      // One question about one part: a part that is gone is asked about once.
      const asked = clashes.find(
        (it) => it.reason === reason && it.id === id && (reason === "gone" || it.path === at),
      );
      if (asked) asked.mine = reason === "gone" ? asked.mine : mine;
      else clashes.push({ reason, id, path: at, mine, theirs });
    };
    if (id !== null && !flat.has(id)) {
      clash("gone", path, after, undefined);
      return;
    }
    const own = flat.ownOf(id);
    const current = valueAt(own, path);
    if (same(current, after)) return;
    let value = after;
    if (!same(current, before))
      value = mergeValue(before, after, current, path, (it) => clash("changed", it.path, it.mine, it.theirs));
    if (same(current, value)) return;
    const next = withValueAt(own, path, value);
    // The way there is gone: an item of a list that the other side took out.
    if (!same(valueAt(next, path), value)) {
      clash("gone", path, after, undefined);
      return;
    }
    flat.setOwn(id, next);
    if (id !== null) touched.add(id);
  },
  merge: (first, second) =>
    first.id === second.id && first.path === second.path ? { ...first, after: second.after } : null,
  schema,
  pack({ id, path, before, after }) {
    const whole = { op: "set" as const, id, path, after };
    if (before === undefined || after === undefined) return whole;
    const [old, fresh] = [canonical(before), canonical(after)];
    let from = 0;
    while (from < old.length && from < fresh.length && old.charCodeAt(from) === fresh.charCodeAt(from))
      from++;
    let tail = 0;
    while (
      tail < old.length - from &&
      tail < fresh.length - from &&
      old.charCodeAt(old.length - 1 - tail) === fresh.charCodeAt(fresh.length - 1 - tail)
    )
      tail++;
    const put = fresh.slice(from, fresh.length - tail);
    if (put.length + 40 >= fresh.length) return whole;
    return { op: "splice", id, path, from, cut: old.length - tail - from, put };
  },
  unpack(flat, packed) {
    const { id, path } = packed;
    mustHave(flat, id);
    if (/(^|\/)id$/.test(path) || CHILDREN[flat.kind(id)]?.list === path)
      throw new StrayStep(`“${path}” cannot be set.`);
    const before = valueAt(flat.ownOf(id), path);
    const after = packed.op === "set" ? packed.after : spliced(before, packed);
    return { op: "set", id, path, before, after };
  },
};

function spliced(before: unknown, { from, cut, put }: z.infer<typeof SpliceSchema>): unknown {
  const text = before === undefined ? "" : canonical(before);
  try {
    return JSON.parse(text.slice(0, from) + put + text.slice(from + cut));
  } catch {
    throw new StrayStep("A change does not fit what it changes.");
  }
}
