import { pictureColours } from "~/server/workspace/palette";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/picture-colours";

/** The colours a picture is made of, for a palette that begins with a logo. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return Response.json(await orNotHere(() => pictureColours(context.septima, params.picture)));
}
