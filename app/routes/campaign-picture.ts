import { campaignPicture } from "~/server/campaigns/rendering";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-picture";

/** The email itself, for the small true pictures. It may do nothing but be looked at. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const html = await orNotHere(() => campaignPicture(context.septima, params.campaign));
  return new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": "default-src 'none'; img-src * data:; style-src 'unsafe-inline'; sandbox",
      "cache-control": "private, no-cache",
    },
  });
}
