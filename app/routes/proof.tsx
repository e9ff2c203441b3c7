import { X } from "lucide-react";
import { useState } from "react";
import { useFetcher } from "react-router";
import { z } from "zod";
import { contactName } from "~/core/audience";
import { campaign } from "~/server/campaigns/campaigns";
import {
  dropProofGroup,
  keepProofGroup,
  type ProofGroup,
  proofGroups,
  proofs,
  sendProof,
} from "~/server/campaigns/proofs";
import { campaignAs, editionsOrWhy } from "~/server/campaigns/rendering";
import { framed } from "../framed";
import { fieldsInput } from "../input";
import { ReaderPicker } from "../readers/reader-picker";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Area, Choice, Input, Labelled, Problem } from "../ui/form";
import { Switch } from "../ui/switch";
import { counted, timeWords } from "../ui/time";
import type { Route } from "./+types/proof";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const asked = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  const {
    message,
    contact,
    look: { policy },
  } = await campaignAs(septima, params.campaign, asked);
  const { email, readers } = await campaign(septima, params.campaign);
  const { editions } = await editionsOrWhy(septima, email, readers, params.campaign);
  return {
    now: septima.now(),
    message,
    contact,
    policy,
    proofs: await proofs(septima, params.campaign),
    groups: await proofGroups(septima),
    editions: editions.length,
  };
}

const Body = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("send"),
    to: z.string(),
    as: z.enum(["reader", "editions", "random"]),
    reader: z.coerce.number().int(),
    note: z.string().max(2000),
    marked: z.enum(["yes", "no"]),
  }),
  z.object({ intent: z.literal("keep"), name: z.string().max(80), to: z.string() }),
  z.object({ intent: z.literal("drop"), name: z.string().max(80) }),
]);

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const body = await fieldsInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "keep":
        await keepProofGroup(septima, body.name, body.to);
        return null;
      case "drop":
        await dropProofGroup(septima, body.name);
        return null;
      default:
        return sendProof(septima, params.campaign, {
          to: body.to,
          as: body.as,
          contactId: body.reader,
          note: body.note.trim(),
          marked: body.marked === "yes",
        });
    }
  });
}

type As = "reader" | "editions" | "random";

export default function Proof({
  loaderData: { message, contact, policy, proofs: sent, groups, editions, now },
}: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const [to, setTo] = useState("");
  const [as, setAs] = useState<As>("reader");
  const [marked, setMarked] = useState(true);
  const answer = fetcher.state === "idle" ? fetcher.data : undefined;
  return (
    <main className="grid h-full grid-cols-[400px_minmax(0,1fr)] max-md:grid-cols-1 max-md:overflow-y-auto">
      <title>Proof · Septima</title>
      <div className="overflow-y-auto border-r bg-paper p-6 max-md:border-b">
        <h1 className="mb-4 text-[22px]/7 font-semibold">Send a proof</h1>
        <fetcher.Form method="post" className="space-y-4">
          <input type="hidden" name="intent" value="send" />
          <div>
            <Labelled label="To" hint="One or several addresses, parted by commas or lines.">
              <Area
                name="to"
                rows={2}
                placeholder="you@organisation.example"
                value={to}
                onChange={(event) => setTo(event.target.value)}
              />
            </Labelled>
            <ProofGroups groups={groups} to={to} onChoose={(all) => setTo(all.join(", "))} />
          </div>
          <div className="space-y-2">
            <p className="font-medium">As whom</p>
            <Choice<As>
              label="As whom"
              value={as}
              onChange={setAs}
              options={[
                { value: "reader", label: "A reader" },
                { value: "editions", label: "One per edition" },
                { value: "random", label: "Some at random" },
              ]}
            />
            {as === "reader" ? (
              <ReaderPicker contact={contact} />
            ) : (
              <p className="text-ink-soft">
                {as === "editions"
                  ? `${counted(editions, "message")} to each address, one for each edition.`
                  : "Five readers, chosen anew each time."}
              </p>
            )}
            <input type="hidden" name="as" value={as} />
            <input type="hidden" name="reader" value={contact?.id ?? 0} />
          </div>
          <Labelled label="Note" hint="Stands above the email, in the proof only.">
            <Input name="note" />
          </Labelled>
          <Switch checked={marked} onChange={setMarked}>
            The subject begins with “Proof”
          </Switch>
          <input type="hidden" name="marked" value={marked ? "yes" : "no"} />
          {answer?.problem && <Problem>{answer.problem}</Problem>}
          {answer?.result && (
            <p role="status" className="rounded-md bg-green-wash px-3 py-2 text-green">
              Sent to {answer.result.addresses.join(", ")}
              {answer.result.readers > 1 && `, as ${answer.result.readers} readers`}.
            </p>
          )}
          <Button
            type="submit"
            kind="primary"
            busy={fetcher.state !== "idle"}
            disabled={as === "reader" && !contact}
          >
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
              {proof.edition && <p className="text-teal">{proof.edition}</p>}
              {proof.note && <p className="text-ink-soft">“{proof.note}”</p>}
            </li>
          ))}
        </ul>
      </div>
      <div className="flex min-h-0 flex-col p-5">
        <p className="mb-3 card px-4 py-2">
          <strong>{message.senderName}</strong> ·{" "}
          <strong>
            {marked && "Proof: "}
            {message.subject || "(no subject)"}
          </strong>{" "}
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

/** Groups of addresses: chosen by a press, kept under a name, forgotten. */
function ProofGroups({
  groups,
  to,
  onChoose,
}: {
  groups: readonly ProofGroup[];
  to: string;
  onChoose(addresses: readonly string[]): void;
}) {
  const fetcher = useFetcher<typeof action>();
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const problem = fetcher.state === "idle" ? fetcher.data?.problem : null;
  const act = (body: Record<string, string>) => fetcher.submit(body, { method: "post" });
  return (
    <div className="mt-2 space-y-2">
      <div className="flex flex-wrap items-center gap-1.5">
        {groups.map((group) => (
          <span key={group.name} className="flex items-center rounded-full border bg-paper">
            <button
              type="button"
              className="rounded-l-full py-1 pr-1 pl-3 hover:bg-black/4"
              title={group.addresses.join(", ")}
              onClick={() => onChoose(group.addresses)}
            >
              {group.name}
            </button>
            <button
              type="button"
              aria-label={`Forget the group ${group.name}`}
              className="grid size-7 place-items-center rounded-r-full text-ink-soft hover:bg-black/4"
              onClick={() => act({ intent: "drop", name: group.name })}
            >
              <X className="size-3.5" aria-hidden />
            </button>
          </span>
        ))}
        {to.trim() !== "" && !naming && (
          <Button kind="quiet" onClick={() => setNaming(true)}>
            Keep as a group…
          </Button>
        )}
      </div>
      {naming && (
        <div className="flex items-end gap-2">
          <div className="grow">
            <Labelled label="Name of the group">
              <Input autoFocus value={name} onChange={(event) => setName(event.target.value)} />
            </Labelled>
          </div>
          <Button
            busy={fetcher.state !== "idle"}
            onClick={() => {
              act({ intent: "keep", name, to });
              setNaming(false);
            }}
          >
            Keep the group
          </Button>
        </div>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
