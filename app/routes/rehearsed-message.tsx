import { shownMessage } from "~/server/campaigns/frames";
import { readMail } from "~/server/mail/read";
import { messageRehearsed } from "~/server/rehearsal/rehearsal";
import { WholeMessage } from "../sending/whole-message";
import type { Route } from "./+types/rehearsed-message";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const source = await messageRehearsed(septima, params.campaign, Number(params.contact));
  return shownMessage(septima, await readMail(Buffer.from(source), `${params.campaign}.${params.contact}`));
}

/** The message that one reader would get, as it was rehearsed. */
export default function RehearsedMessage({ loaderData, params }: Route.ComponentProps) {
  const { campaign, contact } = params;
  return (
    <WholeMessage
      title="The message as it was rehearsed"
      shown={loaderData}
      file={`/campaigns/${campaign}/rehearsed/${contact}/source`}
      back={[
        { to: `/audience/${contact}`, words: "The reader" },
        { to: `/campaigns/${campaign}/preflight`, words: "Preflight" },
      ]}
    />
  );
}
