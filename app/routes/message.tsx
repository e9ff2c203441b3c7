import { shownMessage } from "~/server/campaigns/frames";
import { openMail } from "~/server/mail/read";
import { MessageView } from "../sending/message-view";
import type { Route } from "./+types/message";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return shownMessage(septima, await openMail(septima, params.message));
}

export default function Message({ loaderData }: Route.ComponentProps) {
  const { id } = loaderData.mail;
  return <MessageView {...loaderData} file={`/postroom/${id}/source/${id}.eml`} />;
}
