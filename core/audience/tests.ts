import type { Bits } from "./bits";
import type { AudienceContext } from "./context";
import type { DidRule } from "./did-rule";
import { namedRule, RuleError } from "./predicate";
import type { FieldRule, Rule } from "./rule";

/** What a rule comes down to: a test that is asked of each contact by itself. */
export type AtomicRule = FieldRule | DidRule | Extract<Rule, { kind: "list" | "status" }>;

/**
 * The distinct tests in a rule, segments opened up.
 * @throws RuleError when a segment is missing or refers to itself
 */
export function testsIn(rule: Rule, context: AudienceContext): AtomicRule[] {
  const found = new Map<string, AtomicRule>();
  const visit = (part: Rule, path: readonly string[]): void => {
    switch (part.kind) {
      case "all":
      case "any":
      case "none":
        for (const one of part.of) visit(one, path);
        break;
      case "segment":
      case "standing":
        visit(...namedRule(part, context, path));
        break;
      default:
        found.set(JSON.stringify(part), part);
    }
  };
  visit(rule, []);
  return [...found.values()];
}

/** Whether every segment and group that a rule names is there, and none goes round in a circle. */
export function isAnswerable(rule: Rule, context: AudienceContext): boolean {
  try {
    testsIn(rule, context);
    return true;
  } catch (error) {
    if (error instanceof RuleError) return false;
    throw error;
  }
}

/** Whether rules ask what somebody did; those that cannot be answered ask nothing. */
export function asksHistory(rules: readonly Rule[], context: AudienceContext): boolean {
  return rules.some(
    (rule) => isAnswerable(rule, context) && testsIn(rule, context).some(({ kind }) => kind === "did"),
  );
}

/**
 * Who of an audience meets a rule, put together from the answers to its tests. Agrees with `predicate` on every contact.
 * @param everyone the audience; nobody else is in the result
 * @throws RuleError when a segment is missing or refers to itself
 */
export function whoMeets(
  rule: Rule,
  context: AudienceContext,
  everyone: Bits,
  answer: (test: AtomicRule) => Bits,
): Bits {
  const meets = (part: Rule, path: readonly string[]): Bits => {
    switch (part.kind) {
      case "all":
        return part.of.reduce((all, one) => all.and(meets(one, path)), everyone);
      case "any":
      case "none": {
        const none = everyone.without(everyone);
        const some = part.of.reduce((all, one) => all.or(meets(one, path)), none);
        return part.kind === "any" ? some : everyone.without(some);
      }
      case "segment":
      case "standing": {
        const inner = meets(...namedRule(part, context, path));
        return part.in ? inner : everyone.without(inner);
      }
      default:
        return answer(part).and(everyone);
    }
  };
  return meets(rule, []);
}

/**
 * Whether a rule, or a segment that it names, asks for a list that was deleted: nobody is on it any more.
 * @throws RuleError when a segment is missing or refers to itself
 */
export function namesGoneList(rule: Rule, context: AudienceContext): boolean {
  const { lists } = context;
  if (!lists) return false;
  return testsIn(rule, context).some((test) => test.kind === "list" && !lists.has(test.list));
}
