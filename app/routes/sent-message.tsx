import { shownMessage } from "~/server/campaigns/frames";
import { messageAsSent } from "~/server/dispatch/frozen";
import { readMail } from "~/server/mail/read";
import { WholeMessage } from "../sending/whole-message";
import type { Route } from "./+types/sent-message";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const contact = Number(params.contact);
  const source = await messageAsSent(septima, params.dispatch, contact);
  return shownMessage(septima, await readMail(Buffer.from(source), `${params.dispatch}.${contact}`));
}

/** The message that one reader got, as it was sent. */
export default function SentMessage({ loaderData, params }: Route.ComponentProps) {
  const { campaign, dispatch, contact } = params;
  return (
    <WholeMessage
      title="The message as it was sent"
      shown={loaderData}
      file={`/campaigns/${campaign}/sent/${dispatch}/${contact}/source`}
      back={[
        { to: `/audience/${contact}`, words: "The reader" },
        { to: `/campaigns/${campaign}/send`, words: "The sending" },
      ]}
    />
  );
}
