import { z } from "zod";

/** A colour as `#RRGGBB`. */
export const ColorSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, "a colour is written #RRGGBB");

/** Where words begin and end is meant: in a language written from right to left both sides are mirrored. */
export const AlignSchema = z.enum(["left", "center", "right"]);
export type Align = z.infer<typeof AlignSchema>;

export const ValignSchema = z.enum(["top", "middle", "bottom"]);
export type Valign = z.infer<typeof ValignSchema>;

/** The id of a node. */
export const IdSchema = z.string().min(1).max(80);

/** The id of an item within a block: it stands in paths, so it holds no slash. */
export const ItemIdSchema = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[^/\s]+$/, "an id holds no slash and no space");
