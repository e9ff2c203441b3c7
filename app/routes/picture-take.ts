import { z } from "zod";
import { addPictureStream } from "~/server/pictures/taking";
import { Refusal } from "~/server/refusal";
import { input } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/picture-take";

const Query = z.object({
  name: z.string().max(300).default("picture"),
  folder: z.string().max(80).default(""),
});
/** Takes a picture into the library: the octets of a file, which pass through bit by bit. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { name, folder } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return orProblem(async () => {
    if (!request.body) throw new Refusal(`“${name}” is empty: it has no bytes at all.`);
    return addPictureStream(septima, name, request.body, folder);
  });
}
