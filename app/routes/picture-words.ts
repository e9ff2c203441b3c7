import { z } from "zod";
import { outlineOf } from "~/server/pictures/files";
import { action as one } from "../deeds";
import type { Route } from "./+types/picture-words";

const Body = z.object({
  font: z.string().max(60),
  weight: z.number().min(100).max(900),
  text: z.string().max(400),
});

/** The outlines of words that are written on a picture. */
export const action = one(Body, (words, { context: { septima } }: Route.ActionArgs) =>
  outlineOf(septima, words),
);
