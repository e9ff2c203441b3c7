/** Tags that come out empty for some of those who get them. */
import { type Rule, RuleError } from "../../audience";
import { constantOf, type Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding, Recipients } from "../finding";
import { fieldsOfTag, finding, ruleAround, tagsOf } from "../said";

const isElsewhere = (field: string) => /^(code|lookup|date|system|item)\./.test(field);
const readers = (count: number) =>
  count === 1 ? "1 reader lacks" : `${count.toLocaleString("en")} readers lack`;

function withoutFallback(email: Email, { readers: those, brand, tags }: Circumstances): Finding[] {
  const { sender } = email.envelope;
  const known = { ...tags, brand, sender: { name: "sender", address: sender.address || "sender" } };
  /** Those who get a block, as far as that can be answered. */
  const gets = (block: string | undefined): Recipients => {
    const rule = block === undefined ? undefined : ruleAround(email, block);
    if (!rule) return those;
    try {
      return those.those(rule);
    } catch (error) {
      if (!(error instanceof RuleError)) throw error;
      return those;
    }
  };
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    if (tag.fallback !== "" || isElsewhere(tag.field) || constantOf(tag, known) !== undefined) return [];
    const count = gets(where.block).lacking(fieldsOfTag(tag));
    if (count === 0) return [];
    const field = tag.field.replaceAll("_", " ");
    const text = `writes “${field}”, which ${readers(count)}, and has no fallback: they get nothing there. Press the tag to give one.`;
    const lack: Rule = {
      kind: "all",
      of: fieldsOfTag(tag).map((one) => ({ kind: "field", field: one, op: "unknown" })),
    };
    return [{ ...finding("look", where, text), when: lack }];
  });
}

export const fallbacksCheck: Check = {
  name: "fallbacks",
  group: "readers",
  label: "fallbacks for what some readers lack",
  why: "A blank where a name should be shows that a machine wrote.",
  spoken: true,
  design: withoutFallback,
};
