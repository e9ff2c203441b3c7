import { pictureColours } from "~/server/workspace/palette";
import type { Route } from "./+types/picture-colours";

/** The colours a picture is made of, for a palette that begins with a logo. */
export function loader({ context, params }: Route.LoaderArgs) {
  return pictureColours(context.septima, params.picture);
}
