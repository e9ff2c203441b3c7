import { clippingPicture } from "~/server/campaigns/clippings";
import { pictureAnswer } from "../picture-answer";
import type { Route } from "./+types/clipping-picture";

/** A clipping by itself in a theme. The address names its revision. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const theme = new URL(request.url).searchParams.get("theme") ?? "";
  return pictureAnswer(await clippingPicture(context.septima, params.clipping, theme), 60);
}
