import { z } from "zod";
import { addPictureFrom, addPictureStream } from "~/server/pictures/taking";
import { Refusal } from "~/server/refusal";
import { input, jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/picture-take";

const Query = z.object({
  name: z.string().max(300).default("picture"),
  folder: z.string().max(80).default(""),
});
const Body = z.object({
  address: z.url({ protocol: /^https?$/, error: "a web address begins with https://" }),
});

/** Takes a picture into the library: the octets of a file, which pass through bit by bit, or an address as JSON. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  if (request.headers.get("content-type")?.startsWith("application/json")) {
    const { address } = await jsonInput(request, Body);
    return orProblem(() => addPictureFrom(septima, address));
  }
  const { name, folder } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return orProblem(async () => {
    if (!request.body) throw new Refusal(`“${name}” is empty: it has no bytes at all.`);
    return addPictureStream(septima, name, request.body, folder);
  });
}
