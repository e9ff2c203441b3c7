import { returnedSource } from "~/server/returned/listing";
import { messageFile } from "../message-file";
import type { Route } from "./+types/returned-source";

/** One message that came back, as a file. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return messageFile(
    await returnedSource(context.septima, params.returned),
    params.returned.replace(/\W/g, ""),
  );
}
