import { campaignPicture } from "~/server/campaigns/rendering";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-picture";

/** The email itself, for the small true pictures. It may do nothing but be looked at. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const reader = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  const { html, policy } = await orNotHere(() => campaignPicture(context.septima, params.campaign, reader));
  return new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": `${policy}; frame-ancestors 'self'; sandbox`,
      "cache-control": "private, no-cache",
    },
  });
}
