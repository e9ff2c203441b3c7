import { sourcesNeeded } from "../../blocks";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

const HOUR = 3_600_000;

/** How old something is, in words. */
function ageWords(ms: number): string {
  const hours = Math.floor(ms / HOUR);
  if (hours < 1) return "less than an hour old";
  if (hours < 48) return hours === 1 ? "an hour old" : `${hours} hours old`;
  return `${Math.floor(hours / 24)} days old`;
}

/** Sources that a design shows and that cannot be read: whether it goes with the last good copy is what was chosen for each. */
export function failingSources(email: Email, { failing = [] }: Pick<Circumstances, "failing">): Finding[] {
  return failing.flatMap(({ id, name, why, age, stopsAfter }): Finding[] => {
    const block = blocksOf(email).find((one) => sourcesNeeded(one).includes(id));
    if (!block) return [];
    const copy = age === null ? "there is no copy of it" : `its last good copy is ${ageWords(age)}`;
    const stops = stopsAfter !== null && (age === null || age >= stopsAfter * HOUR);
    return [
      {
        weight: stops ? "stops" : "look",
        text: `“${name}” cannot be read, and ${copy}: ${why} ${
          stops
            ? "Mend it under Sources, or say there that sendings go all the same."
            : "It goes with that copy. Under Sources you can have it stop."
        }`,
        block: block.id,
      },
    ];
  });
}

export const sourcesCheck: Check = {
  name: "sources",
  group: "content",
  label: "sources that can be read",
  why: "What is shown may be out of date.",
  design: failingSources,
};
