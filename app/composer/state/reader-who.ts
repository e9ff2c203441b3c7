import { type Contact, predicate, type Rule } from "~/core/audience";
import { tell } from "../../requests";
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
    const { result } = await tell("/readers/count", rule, { query: { campaign: facts.campaign } });
    return result?.sample ?? null;
  } catch {
    return null;
  }
}
