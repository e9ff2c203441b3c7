/** Colours that differ from the theme’s, or from each other, by a hair. */
import { clearOneOffs, oneOffsOf } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import { type Circumstances, type Finding, mendBy } from "../finding";

function design(email: Email, { theme }: Circumstances): Finding[] {
  return oneOffsOf(email, theme).flatMap((one): Finding[] => {
    const { kind, value, places, hair, twin } = one;
    // A size that is a little smaller is meant; a green that is a little greener is not.
    if (!value.startsWith("#")) return [];
    if (hair !== null)
      return [
        {
          weight: "could",
          text: `${value} is nearly the theme’s ${hair}, and nobody sees why it is not. Take the theme’s.`,
          block: places[0],
          mend: mendBy("Take the theme’s", email, clearOneOffs({ kind, value })),
        },
      ];
    if (twin === null) return [];
    return [
      {
        weight: "could",
        text: `${value} and ${twin.value} differ by a hair. Take one of them.`,
        block: places[0],
        mend: mendBy(`Take ${twin.value}`, email, clearOneOffs({ kind, value }, twin.raw)),
      },
    ];
  });
}

export const hairCheck: Check = {
  name: "hair",
  group: "reading",
  label: "colours that are the same or clearly not",
  why: "Two greens that are nearly one look like a mistake, and stay behind when the theme changes.",
  design,
};
