import { z } from "zod";
import { Refusal } from "~/server/refusal";
import { takeSourceFile } from "~/server/sources/uploads";
import { input } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/source-file";

const Query = z.object({ name: z.string().max(300).default("items.csv") });

/** Takes a file of items as a source: its octets pass through bit by bit. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { name } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return orProblem(async () => {
    if (!request.body) throw new Refusal(`“${name}” is empty: it has no octets at all.`);
    return { id: await takeSourceFile(septima, name, request.body) };
  });
}
