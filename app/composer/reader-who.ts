import { type Contact, predicate, type Rule } from "~/core/audience";
import { countAddress } from "../rules/use-reader-count";
import type { ComposerState } from "./store";

/**
 * Somebody of a campaign's readers who meets a rule: the sample of an edition, or whoever the server finds. Null when
 * there is nobody, the rule cannot be answered, or the server is away.
 */
export async function readerWho(
  { editions, facts }: Pick<ComposerState, "editions" | "facts">,
  rule: Rule,
): Promise<Contact | null> {
  try {
    const meets = predicate(rule, facts.audience);
    const known = editions.find(({ sample }) => meets(sample));
    if (known) return known.sample;
    const response = await fetch(countAddress(facts.campaign), {
      method: "POST",
      body: JSON.stringify(rule),
    });
    const { result } = (await response.json()) as { result: { sample: Contact | null } | null };
    return result?.sample ?? null;
  } catch {
    return null;
  }
}
