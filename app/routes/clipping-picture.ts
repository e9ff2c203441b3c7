import { clippingPicture } from "~/server/campaigns/clippings";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/clipping-picture";

/** A clipping by itself in a theme. It may do nothing but be looked at. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const theme = new URL(request.url).searchParams.get("theme") ?? "";
  const { html, policy } = await orNotHere(() => clippingPicture(context.septima, params.clipping, theme));
  return new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": `${policy}; frame-ancestors 'self'; sandbox`,
      "cache-control": "private, max-age=60",
    },
  });
}
