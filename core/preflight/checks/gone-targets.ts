import { constantOf, type Email, tagsIn } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { finding, typedIn } from "../said";

/** Links that lead to an item that its source does not have, or that has no such address, any more. */
function goneTargets(email: Email, { tags = {}, brand }: Circumstances): Finding[] {
  return typedIn(email).flatMap(({ text, ...where }) =>
    tagsIn(text).flatMap((tag): Finding[] => {
      if (!tag.of || constantOf({ ...tag, fallback: "" }, { ...tags, brand }) !== undefined) return [];
      const kept = tag.fallback !== "";
      const text = `leads to something that its source does not have any more${kept ? `: it leads to ${tag.fallback}, where that was` : ""}. Search for another.`;
      return [finding(kept ? "look" : "stops", where, text)];
    }),
  );
}

export const goneTargetsCheck: Check = {
  name: "gone-targets",
  group: "content",
  label: "links to items that are there",
  why: "Readers who press it find nothing.",
  spoken: true,
  design: goneTargets,
};
