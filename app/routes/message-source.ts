import { mailSource } from "~/server/mail/read";
import { messageFile } from "../message-file";
import type { Route } from "./+types/message-source";

/** The message as a file, to open in any mail program. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return messageFile(await mailSource(context.septima, params.message), params.message);
}
