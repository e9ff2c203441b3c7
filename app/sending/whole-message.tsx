import { ArrowLeft } from "lucide-react";
import { Link } from "react-router";
import { MessageView, type ShownMessage } from "./message-view";

/** A page with one message. @param file where it can be had as one @param back where one came from */
export function WholeMessage({
  title,
  shown,
  file,
  back,
}: {
  title: string;
  shown: ShownMessage;
  file: string;
  back: readonly { to: string; words: string }[];
}) {
  return (
    <main className="flex h-screen flex-col">
      <title>{`${shown.mail.subject} · Septima`}</title>
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b px-5 py-3">
        <h1 className="grow text-[15px] font-semibold">{title}</h1>
        {back.map(({ to, words }) => (
          <Link key={to} to={to} className="inline-flex items-center gap-1.5 text-ink-soft hover:text-ink">
            <ArrowLeft className="size-4" aria-hidden /> {words}
          </Link>
        ))}
      </header>
      <div className="min-h-0 grow">
        <MessageView {...shown} file={file} />
      </div>
    </main>
  );
}
