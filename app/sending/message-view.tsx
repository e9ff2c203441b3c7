import { Download } from "lucide-react";
import { Tabs } from "radix-ui";
import { useState } from "react";
import type { OpenMessage } from "~/server/mail/read";
import { framed } from "../framed";
import { Button, buttonLook } from "../ui/button";
import { kilobytes } from "../ui/time";

/** A message as a page is given it. */
export interface ShownMessage {
  mail: OpenMessage;
  /** Whether it shows pictures from elsewhere. */
  foreign: boolean;
  /** What a frame may load: our own pictures, or all. */
  policies: { ours: string; all: string };
}

const FORMS = ["Message", "Text", "Headers", "Source"] as const;

/** A message: as mail programs show it, as text, its headers, its source. @param file where it can be had as one */
export function MessageView({ mail, foreign, policies, file }: ShownMessage & { file: string }) {
  // As mail programs do: pictures from elsewhere tell who sent them that they were looked at.
  const [pictures, setPictures] = useState<{ of: string } | null>(null);
  const all = pictures?.of === mail.id;
  return (
    <Tabs.Root defaultValue="Message" key={mail.id} className="flex h-full flex-col">
      <header className="border-b bg-paper px-5 pt-3">
        <div className="flex items-start gap-3">
          <div className="min-w-0 grow">
            <h2 className="text-[15px] font-semibold break-words">{mail.subject || "(no subject)"}</h2>
            <p className="break-all text-ink-soft">
              {mail.from} → {mail.to} · {kilobytes(mail.size)}
            </p>
          </div>
          <a className={buttonLook()} href={file} download>
            <Download className="size-4" aria-hidden /> Download .eml
          </a>
        </div>
        <Tabs.List aria-label="The message as" className="mt-2 flex gap-4">
          {FORMS.map((form) => (
            <Tabs.Trigger
              key={form}
              value={form}
              className="border-b-2 border-transparent pb-1.5 text-ink-soft data-[state=active]:border-mulberry data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {form}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
      </header>
      <Tabs.Content value="Message" className="flex min-h-0 grow flex-col not-data-[state=active]:hidden">
        {foreign && !all && (
          <div className="flex items-center gap-3 border-b bg-paper px-5 py-2 text-ink-soft">
            <span className="grow">Pictures from elsewhere are not fetched.</span>
            <Button onClick={() => setPictures({ of: mail.id })}>Show them</Button>
          </div>
        )}
        {mail.html ? (
          <iframe
            title="The message"
            sandbox=""
            srcDoc={framed(mail.html, all ? policies.all : policies.ours)}
            className="min-h-0 w-full grow border-0 bg-white"
          />
        ) : (
          <p className="p-6 text-ink-soft">This message has no HTML part.</p>
        )}
      </Tabs.Content>
      <Tabs.Content value="Text" className="min-h-0 grow overflow-auto bg-paper p-5">
        <pre className="font-mono text-xs/5 break-words whitespace-pre-wrap">{mail.text}</pre>
      </Tabs.Content>
      <Tabs.Content value="Headers" className="min-h-0 grow overflow-auto bg-paper p-5">
        <dl className="grid grid-cols-[180px_1fr] gap-x-4 gap-y-1 font-mono text-xs/5">
          {mail.headers.map((header, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: headers may repeat, their order is what tells them apart
            <div key={index} className="contents">
              <dt className="text-ink-soft">{header.name}</dt>
              <dd className="break-all">{header.value}</dd>
            </div>
          ))}
        </dl>
      </Tabs.Content>
      <Tabs.Content value="Source" className="min-h-0 grow overflow-auto bg-paper p-5">
        <pre className="font-mono text-xs/5 break-all whitespace-pre-wrap">{mail.source}</pre>
      </Tabs.Content>
    </Tabs.Root>
  );
}
