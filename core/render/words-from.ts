import { type Inline, MergeTagSchema } from "../email";
import type { Instruction, Pool } from "../program";

/** Instructions as the words that they would be written from: what jumps around is an either/or. */
export function wordsFrom(instructions: readonly Instruction[], pool: Pool): Inline[] {
  let at = 0;
  const read = (ends: (it: Instruction) => boolean): { words: Inline[]; end?: Instruction } => {
    const words: Inline[] = [];
    while (at < instructions.length) {
      const it = instructions[at++];
      if (ends(it)) return { words, end: it };
      if (it.op === "value") {
        const { sink: _, ...tag } = pool.slots[it.slot];
        words.push({ type: "mergeTag", attrs: MergeTagSchema.parse(tag) });
      } else if (it.op === "static") {
        for (const [index, line] of it.text.split("\n").entries()) {
          if (index > 0) words.push({ type: "hardBreak" });
          if (line !== "") words.push({ type: "text", text: line });
        }
      } else if (it.op === "unless") words.push(readEither(it));
    }
    return { words };
  };
  const isLabel = (label: number) => (it: Instruction) => it.op === "label" && it.label === label;
  /** What stands under a rule, up to its label or to a jump. */
  const readCase = ({ rule, label }: { rule: number; label: number }) => {
    const { words, end } = read((it) => it.op === "jump" || isLabel(label)(it));
    return { when: pool.rules[rule], words, jump: end?.op === "jump" ? end.label : null };
  };
  const readEither = (begin: { rule: number; label: number }): Inline => {
    const { jump: end, ...first } = readCase(begin);
    const cases = [first];
    if (end === null) return { type: "either", attrs: { cases, otherwise: [] } };
    for (;;) {
      // Behind a jump stands the label of those who do not meet the rule.
      at += 1;
      const before = at;
      const next = instructions[at];
      if (next?.op !== "unless") break;
      at += 1;
      const { jump, ...one } = readCase(next);
      if (jump !== end) {
        // It is within what everybody else gets.
        at = before;
        break;
      }
      cases.push(one);
    }
    return { type: "either", attrs: { cases, otherwise: read(isLabel(end)).words } };
  };
  return read(() => false).words;
}
