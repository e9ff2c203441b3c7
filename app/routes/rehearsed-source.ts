import { messageRehearsed } from "~/server/rehearsal/rehearsal";
import { messageFile } from "../message-file";
import type { Route } from "./+types/rehearsed-source";

/** The message that one reader would get, as a file. */
export async function loader({ context: { septima }, params: { campaign, contact } }: Route.LoaderArgs) {
  return messageFile(await messageRehearsed(septima, campaign, Number(contact)), `rehearsed-${contact}`);
}
