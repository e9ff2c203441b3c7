import { templatePicture } from "~/server/campaigns/templates";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/template-picture";

/** A template as a reader would get it, with `?theme=` in another theme. It may do nothing but be looked at. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const theme = new URL(request.url).searchParams.get("theme") ?? undefined;
  const { html, policy } = await orNotHere(() => templatePicture(context.septima, params.template, theme));
  return new Response(html, {
    headers: {
      "content-type": "text/html; charset=utf-8",
      "content-security-policy": `${policy}; frame-ancestors 'self'; sandbox`,
      // The address names the revision and the theme's version; what sources hold may be a minute old here.
      "cache-control": "private, max-age=60",
    },
  });
}
