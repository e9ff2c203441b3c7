import { returnedSource } from "~/server/returned/listing";
import type { Route } from "./+types/returned-source";

/** One message that came back, as a file. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const source = await returnedSource(context.septima, params.returned);
  return new Response(new Uint8Array(source), {
    headers: {
      "content-type": "message/rfc822",
      "content-disposition": `attachment; filename="${params.returned.replace(/\W/g, "")}.eml"`,
    },
  });
}
