import { templatePicture } from "~/server/campaigns/templates";
import { pictureAnswer } from "../picture-answer";
import type { Route } from "./+types/template-picture";

/** A template as a reader would get it, with `?theme=` in another theme. The address names its revision. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const theme = new URL(request.url).searchParams.get("theme") ?? undefined;
  return pictureAnswer(await templatePicture(context.septima, params.template, theme), 60);
}
