import { type Email, lookupNamed } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { finding, tagsOf } from "../said";

const CODE = "code.";

/** Tags that ask for a lookup or a batch of codes that is not there. */
function gone(email: Email, { tags = {} }: Circumstances): Finding[] {
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    const { field, fallback } = tag;
    const missing = field.startsWith("lookup.")
      ? lookupNamed(field, tags.lookups) === null && "lookup"
      : field.startsWith(CODE) && !tags.codes?.some(({ key }) => field === CODE + key) && "batch of codes";
    if (!missing) return [];
    const name = field.slice(field.indexOf(".") + 1);
    return [
      finding(
        fallback === "" ? "stops" : "look",
        where,
        `asks for the ${missing} “${name}”, which is not there${fallback === "" ? "" : `: everybody gets “${fallback}”`}. Choose another, or take the tag out.`,
      ),
    ];
  });
}

export const goneCheck: Check = {
  name: "gone",
  group: "readers",
  label: "lookups and codes that are there",
  why: "Everybody would get nothing in its place.",
  spoken: true,
  design: gone,
};
