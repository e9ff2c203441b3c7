import { lookAt } from "~/server/preflight/looks";
import { inboxAsked } from "../inbox-asked";
import { pictureAnswer } from "../picture-answer";
import type { Route } from "./+types/preflight-look";

/** The email, or one block of it, as a reader gets it and a class of mail programs shows it. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const asked = new URL(request.url).searchParams;
  const inbox = inboxAsked(asked);
  const look = await lookAt(septima, params.campaign, {
    reader: Number(asked.get("reader")) || undefined,
    block: asked.get("block") ?? undefined,
    inbox,
  });
  return pictureAnswer(look, 0);
}
