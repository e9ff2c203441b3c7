import { offerPicture } from "~/server/campaigns/templates";
import { pictureAnswer } from "../picture-answer";
import type { Route } from "./+types/template-offer-picture";

/** A campaign with the changes of its template that `?take=` names, as a reader would get it. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const query = new URL(request.url).searchParams;
  const picture = () =>
    offerPicture(context.septima, params.template, query.get("campaign") ?? "", query.getAll("take"));
  return pictureAnswer(await picture(), 0);
}
