import type { Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { tagsOf } from "../said";

const amount = (count: number) => `${count.toLocaleString("en")} ${count === 1 ? "code" : "codes"}`;

/** Batches that have too few codes for their readers, will be nearly used up, or are worth nothing any more. */
export function codesShort(
  email: Email,
  { codes = [], today = "" }: Pick<Circumstances, "codes" | "today">,
): Finding[] {
  return codes.flatMap(({ key, name, wanted, free, low, ends }): Finding[] => {
    const tags = tagsOf(email).filter(({ tag }) => tag.field === `code.${key}`);
    const block = tags.find((one) => one.block !== undefined)?.block;
    const at = block === undefined ? {} : { block };
    const found: Finding[] = [];
    const missing = wanted - free;
    if (missing > 0) {
      const fallback = tags.every(({ tag }) => tag.fallback.trim() !== "") && tags[0]?.tag.fallback;
      found.push({
        weight: fallback ? "look" : "stops",
        text: `“${name}” has ${amount(free)} left for ${wanted.toLocaleString("en")} readers: ${missing.toLocaleString("en")} ${missing === 1 ? "is" : "are"} missing. ${
          fallback
            ? `Those who get none read “${fallback}”.`
            : "Add codes under Sources, or say in the tag what those get for whom there is none."
        }`,
        ...at,
      });
    } else if (wanted > 0 && free - wanted < low) {
      found.push({
        weight: "look",
        text: `“${name}” will have ${amount(free - wanted)} left after this. Add codes under Sources.`,
        ...at,
      });
    }
    if (ends !== null && ends < today)
      found.push({
        weight: "stops",
        text: `The codes of “${name}” were good until ${ends}. Take another batch, or change its last day under Sources.`,
        ...at,
      });
    return found;
  });
}

export const codesCheck: Check = {
  name: "codes",
  group: "readers",
  label: "codes for everybody who is shown one",
  why: "Who was promised a code and gets none writes to you.",
  design: codesShort,
};
