/** Buttons that are hard to hit with a finger. */
import { buttonHeight, type TypedBlock } from "../../blocks";
import { commands } from "../../compose";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import { type Circumstances, type Finding, mendBy } from "../finding";

/** In px, across (WCAG 2.2, 2.5.5). */
const LEAST = 44;

function low(email: Email, { theme }: Circumstances): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] => {
    if (block.type !== "button") return [];
    const button = block as TypedBlock<"button">;
    const height = buttonHeight(button, theme);
    if (height >= LEAST) return [];
    const room = (button.padY ?? theme.button.padY) + Math.ceil((LEAST - height) / 2);
    return [
      {
        weight: "could",
        text: `A button is ${height} px high on phones. Give it ${LEAST}, the width of a fingertip.`,
        block: block.id,
        mend: mendBy("Make it higher", email, commands.setAt(block.id, "padY", room)),
      },
    ];
  });
}

export const targetsCheck: Check = {
  name: "targets",
  group: "reading",
  label: "buttons a finger can hit",
  why: "Who misses a button twice gives up (WCAG 2.2, 2.5.5).",
  design: low,
};
