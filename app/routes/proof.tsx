import { useState } from "react";
import { useFetcher } from "react-router";
import { z } from "zod";
import { contactName } from "~/core/audience";
import { proofs, sendProof } from "~/server/campaigns/proofs";
import { campaignAs } from "~/server/campaigns/rendering";
import { framed } from "../framed";
import { fieldsInput } from "../input";
import { ReaderPicker } from "../readers/reader-picker";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Area, Input, Labelled, Problem } from "../ui/form";
import { timeWords } from "../ui/time";
import type { Route } from "./+types/proof";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const asked = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  const {
    message,
    contact,
    look: { policy },
  } = await campaignAs(septima, params.campaign, asked);
  return { now: septima.now(), message, contact, policy, proofs: await proofs(septima, params.campaign) };
}

const Body = z.object({ to: z.string(), reader: z.coerce.number().int(), note: z.string().max(2000) });

export async function action({ context, params, request }: Route.ActionArgs) {
  const { to, reader, note } = await fieldsInput(request, Body);
  return orProblem(() =>
    sendProof(context.septima, params.campaign, { to, contactId: reader, note: note.trim() }),
  );
}

export default function Proof({
  loaderData: { message, contact, policy, proofs: sent, now },
}: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const [to, setTo] = useState("");
  const answer = fetcher.state === "idle" ? fetcher.data : undefined;
  return (
    <main className="grid h-full grid-cols-[400px_minmax(0,1fr)] max-md:grid-cols-1 max-md:overflow-y-auto">
      <title>Proof · Septima</title>
      <div className="overflow-y-auto border-r bg-paper p-6 max-md:border-b">
        <h1 className="mb-4 text-[22px]/7 font-semibold">Send a proof</h1>
        <fetcher.Form method="post" className="space-y-4">
          <Labelled label="To" hint="One or several addresses, parted by commas or lines.">
            <Area
              name="to"
              rows={2}
              placeholder="you@organisation.example"
              value={to}
              onChange={(event) => setTo(event.target.value)}
            />
          </Labelled>
          <div>
            <p className="mb-1 font-medium">As this reader would get it</p>
            <ReaderPicker contact={contact} />
            <input type="hidden" name="reader" value={contact?.id ?? 0} />
          </div>
          <Labelled label="Note" hint="Stands above the email, in the proof only.">
            <Input name="note" />
          </Labelled>
          {answer?.problem && <Problem>{answer.problem}</Problem>}
          {answer?.result && (
            <p role="status" className="rounded-md bg-green-wash px-3 py-2 text-green">
              Sent to {answer.result.join(", ")}.
            </p>
          )}
          <Button type="submit" kind="primary" busy={fetcher.state !== "idle"} disabled={!contact}>
            {fetcher.state === "idle" ? "Send the proof" : "Sending…"}
          </Button>
        </fetcher.Form>
        <h2 className="mt-8 mb-2 font-semibold">Sent before</h2>
        {sent.length === 0 && <p className="text-ink-soft">No proof yet.</p>}
        <ul className="divide-y">
          {sent.map((proof) => (
            <li key={proof.id} className="py-2">
              <p className="break-all">{proof.addresses.join(", ")}</p>
              <p className="text-ink-soft">
                as {proof.reader}, {timeWords(proof.sentAt, now)}
              </p>
              {proof.note && <p className="text-ink-soft">“{proof.note}”</p>}
            </li>
          ))}
        </ul>
      </div>
      <div className="flex min-h-0 flex-col p-5">
        <p className="mb-3 card px-4 py-2">
          <strong>{message.senderName}</strong> · <strong>Proof: {message.subject || "(no subject)"}</strong>{" "}
          <span className="text-ink-soft">{message.preheader}</span>
        </p>
        <iframe
          title={`The proof as ${contact ? contactName(contact) : "nobody"}`}
          sandbox=""
          srcDoc={framed(message.html, policy)}
          className="min-h-0 w-full grow rounded-lg border bg-white"
        />
      </div>
    </main>
  );
}
