import { mailSource } from "~/server/mail/read";
import type { Route } from "./+types/message-source";

/** The message as a file, to open in any mail program. */
export async function loader({ context, params }: Route.LoaderArgs) {
  const source = await mailSource(context.septima, params.message);
  return new Response(new Uint8Array(source), {
    headers: {
      "content-type": "message/rfc822",
      "content-disposition": `attachment; filename="${params.message}.eml"`,
    },
  });
}
