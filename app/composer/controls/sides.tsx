import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import type { ReactNode } from "react";
import type { Align } from "~/core/email";
import { directionOf } from "~/core/program";
import { useComposer } from "../state/store";

const SIDES = [
  { value: "left", label: "Left", icon: <AlignLeft className="size-4" /> },
  { value: "center", label: "Centre", icon: <AlignCenter className="size-4" /> },
  { value: "right", label: "Right", icon: <AlignRight className="size-4" /> },
] as const;
const MIRRORED = { left: "right", center: "center", right: "left" } as const;

/**
 * The three sides as a reader sees them. What is kept is where words begin and end, so in a language written from right
 * to left the value behind "Left" is the one for the end.
 */
export function useSides(): readonly { value: Align; label: string; icon: ReactNode }[] {
  const direction = useComposer(({ email }) => directionOf(email.language));
  return direction === "ltr" ? SIDES : SIDES.map((side) => ({ ...side, value: MIRRORED[side.value] }));
}
