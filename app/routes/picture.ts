import { pictureFile } from "~/server/workspace/pictures";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/picture";

export async function loader({ context, params }: Route.LoaderArgs) {
  const { type, data } = await orNotHere(() => pictureFile(context.septima, params.picture));
  return new Response(new Uint8Array(data), {
    headers: {
      "content-type": type,
      "cache-control": "public, max-age=31536000, immutable",
      "x-content-type-options": "nosniff",
    },
  });
}
