import type { Align } from "../email";
import type { RenderContext } from "./context";
import { TABLE } from "./html";

type Side = "left" | "center" | "right";

/** The side at which something stands: where the language runs from right to left, the sides are mirrored. */
export function sideOf(align: Align | undefined, { direction }: Pick<RenderContext, "direction">): Side {
  const side = align ?? "left";
  if (direction === "ltr" || side === "center") return side;
  return side === "left" ? "right" : "left";
}

/**
 * Where a table stands that is narrower than its place: what is written before, in and after it. A table that says
 * itself at which side it stands floats, with what follows beside it, and some word processors drop floating tables:
 * so it says nothing at the side where it would stand anyway, and at the other a cell around it says it.
 */
export function tableAt(
  align: Align | undefined,
  context: Pick<RenderContext, "direction">,
): { open: string; align: string; margin: string | undefined; close: string } {
  const side = sideOf(align, context);
  if (side === "center") return { open: "", align: ' align="center"', margin: "0 auto", close: "" };
  if (side === sideOf("left", context)) return { open: "", align: "", margin: undefined, close: "" };
  return {
    open: `<table ${TABLE} width="100%"><tr><td align="${side}">`,
    align: "",
    margin: side === "right" ? "0 0 0 auto" : "0 auto 0 0",
    close: "</td></tr></table>",
  };
}

/** A padding in px with the space before and after in the direction of the language. */
export function paddingOf(
  [top, end, bottom, start]: readonly [number, number, number, number],
  { direction }: Pick<RenderContext, "direction">,
): string {
  const [right, left] = direction === "ltr" ? [end, start] : [start, end];
  return [top, right, bottom, left].map((side) => (side === 0 ? "0" : `${side}px`)).join(" ");
}
