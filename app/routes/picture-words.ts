import { z } from "zod";
import { outlineOf } from "~/server/pictures/files";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/picture-words";

const Body = z.object({
  font: z.string().max(60),
  weight: z.number().min(100).max(900),
  text: z.string().max(400),
});

/** The outlines of words that are written on a picture. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const words = await jsonInput(request, Body);
  return orProblem(() => outlineOf(septima, words));
}
