import { messageAsSent } from "~/server/dispatch/frozen";
import { messageFile } from "../message-file";
import type { Route } from "./+types/sent-source";

/** The message that one reader got, as a file. */
export async function loader({ context: { septima }, params: { dispatch, contact } }: Route.LoaderArgs) {
  return messageFile(await messageAsSent(septima, dispatch, Number(contact)), `${dispatch}-${contact}`);
}
