import { type Email, readTyped } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";
import { finding, typedIn } from "../said";

/** Typed tags that cannot be read, each with its line. */
function typedMistakes(email: Email): Finding[] {
  return typedIn(email).flatMap(({ text, ...where }) =>
    readTyped(text).mistakes.map(({ at, length, text: wrong }) => {
      const line = text.slice(0, at).split("\n").length;
      // What stands in the tag: the signs around it mean nothing to whoever reads this.
      const typed = text.slice(at, at + Math.min(length, 40)).replace(/^\{\$|\}$/g, "");
      return finding(
        "stops",
        where,
        `has a tag that cannot be read, “${typed}”, in line ${line}: ${wrong.replaceAll(/\{\$([^}]*)\}/g, "$1")}`,
      );
    }),
  );
}

export const typedCheck: Check = {
  name: "typed",
  group: "message",
  label: "tags that can be read",
  why: "Readers would see the tag instead of what it stands for.",
  spoken: true,
  design: typedMistakes,
};
