import { z } from "zod";
import { takeFile } from "~/server/audience/import-file";
import { Refusal } from "~/server/refusal";
import { input } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/import-take";

const Query = z.object({ name: z.string().max(300).default("contacts.csv") });

/** Takes a file of contacts: its octets pass through bit by bit. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { name } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return orProblem(async () => {
    if (!request.body) throw new Refusal(`“${name}” is empty: it has no octets at all.`);
    return { id: await takeFile(septima, name, request.body) };
  });
}
