import { ruleNames } from "~/core/audience";
import { listAsks, placedIn } from "~/core/blocks";
import { type SeenThing, whoSeesWhat } from "~/core/preflight";
import { knownIn } from "~/core/render";
import { languageFor, translated } from "~/core/translation";
import { contactById } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { ruleWords } from "../audience/words";
import { orNone } from "../campaigns/rendering";
import type { Septima } from "../septima";
import { pickedFor } from "../sources/picks";
import { brandOf } from "../workspace/settings";
import { circumstancesOf, listNumbers, sendable } from "./circumstances";

/**
 * Everything in a campaign that depends on its reader, with what one contact gets and why, and how many of its readers get
 * what is left where it has nothing for them.
 * @throws Refusal (404) when the campaign or the contact is gone
 */
export async function seenBy(
  septima: Septima,
  campaignId: string,
  contactId: number,
): Promise<{ things: SeenThing[]; readers: number | null }> {
  const it = await sendable(septima, campaignId);
  const contact = await contactById(septima, contactId);
  const language = languageFor(it.email, contact);
  const email = translated(it.email, language);
  const [words, audience, brand, picked, numbers] = await Promise.all([
    ruleWords(septima),
    audienceContext(septima),
    brandOf(septima),
    pickedFor(septima, { asks: listAsks(email), placed: placedIn(email), campaign: campaignId }, contact),
    orNone(listNumbers(septima, it)),
  ]);
  const readers = (await orNone(circumstancesOf(septima, it)))?.readers ?? null;
  const things = whoSeesWhat(email, {
    contact,
    audience,
    language,
    names: ruleNames(words),
    known: knownIn(email, { ...it.tags, brand, origin: septima.config.readers }),
    lookups: it.tags.lookups ?? [],
    label: (field) => words.fields.find(({ key }) => key === field)?.label,
    codeName: (key) => it.tags.codes?.find((batch) => batch.key === key)?.name ?? key,
    lists: picked.map(({ block, items, because }) => ({
      block,
      titles: items.map(({ title }) => title),
      because,
      fewer: numbers?.find((one) => one.block === block)?.fewer ?? null,
    })),
    readers,
  });
  return { things, readers: readers?.count ?? null };
}
