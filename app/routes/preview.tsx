import { useState } from "react";
import { Form, Link, useSearchParams } from "react-router";
import { contactName } from "~/core/audience";
import { searchContacts } from "~/server/audience/contacts";
import { campaign } from "~/server/campaigns/campaigns";
import { campaignAs, editionsOf } from "~/server/campaigns/rendering";
import { framed } from "../framed";
import { Choose } from "../ui/choose";
import { Choice, SearchInput } from "../ui/form";
import { count, kilobytes } from "../ui/time";
import type { Route } from "./+types/preview";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const url = new URL(request.url);
  const asked = Number(url.searchParams.get("reader")) || undefined;
  const query = url.searchParams.get("q") ?? "";
  const { email, readers } = await campaign(septima, params.campaign);
  const {
    message,
    contact,
    look: { policy },
  } = await campaignAs(septima, params.campaign, asked);
  const { editions } = await editionsOf(septima, email, readers, params.campaign);
  return {
    message,
    policy,
    bytes: new TextEncoder().encode(message.html).length,
    contact,
    query,
    found: query === "" ? [] : (await searchContacts(septima, query, 8)).contacts,
    editions: editions.map((edition) => ({ count: edition.count, sample: edition.sample })),
  };
}

const DEVICES = [
  { name: "Desktop", width: 720, height: 900 },
  { name: "Tablet", width: 768, height: 900 },
  { name: "Phone", width: 360, height: 740 },
];

export default function Preview({ loaderData }: Route.ComponentProps) {
  const { message, policy, contact, editions, found, query, bytes } = loaderData;
  const [form, setForm] = useState<"design" | "text">("design");
  return (
    <main className="flex h-full flex-col">
      <title>Preview · Septima</title>
      <h1 className="sr-only">Preview</h1>
      <div className="flex flex-wrap items-center gap-3 border-b bg-paper px-4 py-2">
        <p>
          As <strong className="text-teal">{contact ? contactName(contact) : "nobody in particular"}</strong>
        </p>
        <Form className="w-56">
          <SearchInput
            name="q"
            aria-label="Look for a reader"
            placeholder="Another reader, then Enter"
            defaultValue={query}
          />
        </Form>
        {query !== "" && found.length === 0 && <span className="text-ink-soft">Nobody matches.</span>}
        {found.map((one) => (
          <Link key={one.id} to={`?reader=${one.id}`} className="text-teal underline">
            {contactName(one)}
          </Link>
        ))}
        <div className="ml-auto flex items-center gap-2">
          Edition
          <EditionSelect editions={editions} contact={contact?.id} />
        </div>
        <span className="text-ink-soft">{kilobytes(bytes)}</span>
        <Choice
          label="Show"
          value={form}
          onChange={setForm}
          options={[
            { value: "design", label: "Design" },
            { value: "text", label: "Text" },
          ]}
        />
      </div>
      <div className="min-h-0 grow overflow-auto p-5">
        <p className="mb-4 max-w-2xl card px-4 py-2">
          <strong>{message.senderName}</strong> · <strong>{message.subject || "(no subject)"}</strong>{" "}
          <span className="text-ink-soft">{message.preheader}</span>
        </p>
        {form === "text" ? (
          <pre className="card max-w-3xl p-5 font-mono text-xs/5 break-words whitespace-pre-wrap">
            {message.text}
          </pre>
        ) : (
          <div className="flex items-start gap-5">
            {DEVICES.map((device) => (
              <figure key={device.name} className="shrink-0" style={{ width: device.width * 0.62 }}>
                <figcaption className="mb-1 text-ink-soft">
                  {device.name}, {device.width} px
                </figcaption>
                <div
                  className="overflow-hidden rounded-lg border bg-white"
                  style={{ height: device.height * 0.62 }}
                >
                  <iframe
                    title={`The email on a ${device.name.toLowerCase()}`}
                    sandbox=""
                    srcDoc={framed(message.html, policy)}
                    className="origin-top-left border-0"
                    style={{ width: device.width, height: device.height, transform: "scale(0.62)" }}
                  />
                </div>
              </figure>
            ))}
          </div>
        )}
      </div>
    </main>
  );
}

function EditionSelect({
  editions,
  contact,
}: {
  editions: { count: number; sample: { id: number } }[];
  contact?: number;
}) {
  const [, setParams] = useSearchParams();
  const at = editions.findIndex((edition) => edition.sample.id === contact);
  return (
    <Choose
      label="Edition"
      value={at < 0 ? "" : String(contact)}
      placeholder="of this reader"
      onChange={(reader) => setParams({ reader })}
      options={editions.map((edition, index) => ({
        value: String(edition.sample.id),
        label: `${index + 1} of ${editions.length}, ${count(edition.count)} readers`,
      }))}
    />
  );
}
