import { messageAsSent } from "~/server/dispatch/frozen";
import type { Route } from "./+types/sent-source";

/** The message that one reader got, as a file. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const source = await messageAsSent(context.septima, params.dispatch, Number(params.contact));
  return new Response(new Uint8Array(source), {
    headers: {
      "content-type": "message/rfc822",
      "content-disposition": `attachment; filename="${params.dispatch}-${params.contact}.eml"`,
    },
  });
}
