/** How an email stands in an inbox, among others, before it is opened. */
/** What lies beside it: made up, and read already. */
const NEIGHBOURS = [
  {
    sender: "Library",
    subject: "Two books are due on Friday",
    more: "Renew them until Thursday evening, or bring",
  },
  { sender: "Rowan", subject: "Photos from Sunday", more: "I put them all into one folder, have a look and" },
  {
    sender: "The swimming pool",
    subject: "New times from Monday on",
    more: "Lanes are free from six, and families have",
  },
];

interface Line {
  sender: string;
  subject: string;
  more: string;
  unread?: boolean;
}

/** The first words of a text part, which inboxes show where there is no preheader. */
const firstWords = (text: string) => text.replace(/\s+/g, " ").trim().slice(0, 140);

export function InboxLines({
  senderName,
  subject,
  preheader,
  text,
  bare,
  device,
}: {
  senderName: string;
  subject: string;
  preheader: string;
  text: string;
  /** Whether it is seen as if it had no preheader. */
  bare: boolean;
  device: "desktop" | "phone";
}) {
  const own: Line = {
    sender: senderName || "(no name)",
    subject: subject || "(no subject)",
    more: bare || preheader === "" ? firstWords(text) : preheader,
    unread: true,
  };
  const lines: Line[] = [NEIGHBOURS[0], own, ...NEIGHBOURS.slice(1)];
  if (device === "desktop")
    return (
      <section aria-label="In the inbox of a desktop" className="mt-5 max-w-4xl">
        <h2 className="mb-2 font-semibold">In the inbox of a desktop</h2>
        <ul className="divide-y overflow-hidden rounded-lg border bg-white">
          {lines.map((line) => (
            <li key={line.sender} className="flex gap-4 px-3 py-1.5 text-[13px]/5">
              <span className={`w-40 shrink-0 truncate max-sm:w-24 ${line.unread ? "font-semibold" : ""}`}>
                {line.sender}
              </span>
              <span className="min-w-0 truncate">
                <span className={line.unread ? "font-semibold" : ""}>{line.subject}</span>
                <span className="text-ink-soft"> – {line.more}</span>
              </span>
            </li>
          ))}
        </ul>
      </section>
    );
  return (
    <section aria-label="In the inbox of a phone" className="mb-3">
      <h2 className="mb-2 font-semibold">In the inbox of a phone</h2>
      <ul className="w-80 max-w-full divide-y overflow-hidden rounded-lg border bg-white">
        {lines.map((line) => (
          <li key={line.sender} className="px-3 py-2" data-own={line.unread}>
            <p className={`flex items-center gap-1.5 text-[14px]/5 ${line.unread ? "font-semibold" : ""}`}>
              {line.unread && <span className="size-2 shrink-0 rounded-full bg-[#3b6e8f]" aria-hidden />}
              <span className="truncate">{line.sender}</span>
            </p>
            <p className={`truncate text-[14px]/5 ${line.unread ? "font-semibold" : ""}`}>{line.subject}</p>
            <p className="line-clamp-2 text-[13px]/4.5 text-ink-soft">{line.more}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
