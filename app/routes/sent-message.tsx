import { ArrowLeft } from "lucide-react";
import { Link } from "react-router";
import { shownMessage } from "~/server/campaigns/frames";
import { messageAsSent } from "~/server/dispatch/frozen";
import { readMail } from "~/server/mail/read";
import { MessageView } from "../sending/message-view";
import type { Route } from "./+types/sent-message";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const contact = Number(params.contact);
  const source = await messageAsSent(septima, params.dispatch, contact);
  return {
    contact,
    ...(await shownMessage(septima, await readMail(Buffer.from(source), `${params.dispatch}.${contact}`))),
  };
}

/** The message that one reader got, as it was sent. */
export default function SentMessage({ loaderData, params }: Route.ComponentProps) {
  const { contact, ...shown } = loaderData;
  const back = "inline-flex items-center gap-1.5 text-ink-soft hover:text-ink";
  return (
    <main className="flex h-screen flex-col">
      <title>{`${shown.mail.subject} · Septima`}</title>
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b px-5 py-3">
        <h1 className="grow text-[15px] font-semibold">The message as it was sent</h1>
        <Link to={`/audience/${contact}`} className={back}>
          <ArrowLeft className="size-4" aria-hidden /> The reader
        </Link>
        <Link to={`/campaigns/${params.campaign}/send`} className={back}>
          <ArrowLeft className="size-4" aria-hidden /> The sending
        </Link>
      </header>
      <div className="min-h-0 grow">
        <MessageView
          {...shown}
          file={`/campaigns/${params.campaign}/sent/${params.dispatch}/${contact}/source`}
        />
      </div>
    </main>
  );
}
