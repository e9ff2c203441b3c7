import { ArrowLeft } from "lucide-react";
import { useState } from "react";
import { Link, useFetcher } from "react-router";
import { z } from "zod";
import { contactName } from "~/core/audience";
import { endSubscription, subscribeAgain } from "~/server/audience/choices";
import { changeContact, contactFacts, type Happening, MOST } from "~/server/audience/contact-facts";
import { fieldsOf } from "~/server/audience/fields";
import { lists } from "~/server/audience/groups";
import { liftSuppression, suppressionOf } from "~/server/audience/suppressing";
import { Suppressed } from "../audience/suppressed";
import { ValueInput } from "../audience/value-input";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Input, Line } from "../ui/form";
import { Page } from "../ui/page";
import { timeWords } from "../ui/time";
import { useDraft } from "../ui/use-draft";
import type { Route } from "./+types/contact";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const id = z.coerce.number().int().positive().catch(0).parse(params.contact);
  return {
    ...(await contactFacts(septima, id)),
    most: MOST,
    fields: (await fieldsOf(septima)).filter(({ key }) => key !== "email"),
    lists: await lists(septima),
    why: await suppressionOf(septima, id),
    now: septima.now(),
  };
}

const Body = z.union([
  z.object({
    email: z.string().max(400),
    fields: z.record(z.string(), z.unknown()),
    lists: z.array(z.string()).max(1000),
  }),
  z.object({ subscribe: z.string().max(500) }),
  z.object({ unsubscribe: z.literal(true) }),
  z.object({ lift: z.string().max(500) }),
]);

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    const id = Number(params.contact);
    if ("subscribe" in body) await subscribeAgain(septima, id, { way: body.subscribe });
    else if ("unsubscribe" in body) await endSubscription(septima, id, { campaign: null, way: "hand" });
    else if ("lift" in body) await liftSuppression(septima, id, body.lift);
    else await changeContact(septima, id, body);
    return true;
  });
}

const STATUS = {
  subscribed: { words: "Subscribed", look: "bg-green-wash text-green" },
  unsubscribed: { words: "Unsubscribed: gets no email", look: "bg-amber-wash text-amber" },
  bounced: { words: "Bounced: gets no email", look: "bg-red-wash text-red" },
  removed: { words: "Removed: out of sight", look: "bg-red-wash text-red" },
  complained: { words: "Called a letter spam: gets no email", look: "bg-red-wash text-red" },
};

export default function ContactPage({ loaderData }: Route.ComponentProps) {
  const { contact, status, since, history, most, drafts, now } = loaderData;
  return (
    <Page
      title={contactName(contact)}
      about={
        <>
          <span className={`mr-2 rounded-full px-2.5 py-0.5 text-xs font-medium ${STATUS[status].look}`}>
            {STATUS[status].words}
          </span>
          in the audience since {timeWords(since, now)}
        </>
      }
      actions={
        <Link to="/audience" className="inline-flex items-center gap-1.5 text-ink-soft hover:text-ink">
          <ArrowLeft className="size-4" aria-hidden /> Audience
        </Link>
      }
    >
      <div className="grid grid-cols-2 items-start gap-5 max-lg:grid-cols-1">
        <Known key={contact.id} {...loaderData} />
        <div className="space-y-5">
          <Subscription status={status} />
          {(status === "bounced" || status === "complained") && (
            <Suppressed status={status} why={loaderData.why} now={now} />
          )}
          <section className="card p-5" aria-label="What they would get">
            <h2 className="mb-2 text-[15px] font-semibold">What they would get</h2>
            {drafts.length === 0 ? (
              <p className="text-ink-soft">They are among the readers of no draft.</p>
            ) : (
              <ul className="space-y-1">
                {drafts.map((draft) => (
                  <li key={draft.id}>
                    <Link
                      className="underline underline-offset-2 hover:text-mulberry"
                      to={`/campaigns/${draft.id}/preview?reader=${contact.id}`}
                    >
                      {draft.name}
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </section>
          <section className="card p-5" aria-label="History">
            <h2 className="mb-2 text-[15px] font-semibold">History</h2>
            {history.length === 0 && <p className="text-ink-soft">Nothing was sent to them yet.</p>}
            <ol className="space-y-2">
              {history.map((one) => (
                <li key={`${one.kind} ${one.at} ${one.campaign?.id}`} className="flex flex-wrap gap-x-3">
                  <span className="w-36 shrink-0 text-ink-soft">{timeWords(one.at, now)}</span>
                  <span className="min-w-0 grow basis-60">
                    {happened(one)}{" "}
                    {one.campaign && (
                      <Link
                        className="underline underline-offset-2 hover:text-mulberry"
                        to={`/campaigns/${one.campaign.id}/send`}
                      >
                        {one.campaign.name}
                      </Link>
                    )}
                    {one.dispatch && one.campaign && (
                      <Link
                        className="ml-2 text-ink-soft underline underline-offset-2 hover:text-mulberry"
                        to={`/campaigns/${one.campaign.id}/sent/${one.dispatch}/${contact.id}`}
                        aria-label={`The message of ${one.campaign.name} as it was sent`}
                      >
                        as it was sent
                      </Link>
                    )}
                    {one.trouble && <span className="block text-ink-soft">{one.trouble}</span>}
                  </span>
                </li>
              ))}
            </ol>
            {history.length >= most && (
              <p className="mt-2 text-xs text-ink-soft">The last {most} are shown.</p>
            )}
          </section>
        </div>
      </div>
    </Page>
  );
}

/** Whether they may be written to, changed by hand: for who asked on the telephone. */
function Subscription({ status }: { status: Route.ComponentProps["loaderData"]["status"] }) {
  const fetcher = useFetcher<typeof action>();
  const [way, setWay] = useState("");
  const send = (body: unknown) =>
    fetcher.submit(JSON.stringify(body), { method: "post", encType: "application/json" });
  const busy = fetcher.state !== "idle";
  if (status !== "subscribed" && status !== "unsubscribed") return null;
  return (
    <section className="card flex flex-wrap items-center gap-2 p-4" aria-label="Subscription">
      {status === "subscribed" ? (
        <>
          <span className="grow text-ink-soft">They asked to get no more?</span>
          <Button disabled={busy} onClick={() => send({ unsubscribe: true })}>
            Unsubscribe them
          </Button>
        </>
      ) : (
        <>
          <Input
            aria-label="How they asked to be written to again"
            placeholder="How they asked: on the telephone…"
            className="grow basis-48"
            value={way}
            onChange={(event) => setWay(event.target.value)}
          />
          <Button disabled={busy || way.trim() === ""} onClick={() => send({ subscribe: way })}>
            Subscribe again
          </Button>
        </>
      )}
      {fetcher.data?.problem && !busy && (
        <span role="alert" className="basis-full text-red">
          {fetcher.data.problem}
        </span>
      )}
    </section>
  );
}

const SENT: Record<string, string> = {
  accepted: "Got",
  pending: "Waits for",
  handing: "Is being sent",
  failed: "Could not be sent",
  skipped: "Was left out of",
  unconfirmed: "May have got",
};

const SUPPRESSED: Record<string, string> = {
  gone: "The address took no mail",
  soft: "Letters failed too often",
  complaint: "Called a letter spam",
};

function happened({ kind, how }: Happening): string {
  if (kind === "sent") return SENT[how] ?? how;
  if (kind === "answered") return `Answered ${how} in`;
  if (kind === "chose") return how;
  if (kind === "opened") return "Opened";
  if (kind === "clicked") return `Went to ${how} from`;
  if (kind === "suppressed") return SUPPRESSED[how] ?? how;
  if (kind === "lifted") return "May be written to again";
  if (kind === "bought") return `Bought ${how}`;
  if (how === "hand") return "Unsubscribed by hand";
  return how === "one-click" ? "Unsubscribed in their mail program from" : "Unsubscribed on the page of";
}

/** The address, the fields by their kinds, and the lists. */
function Known({ contact, fields, lists: all }: Route.ComponentProps["loaderData"]) {
  const fetcher = useFetcher<typeof action>();
  const busy = fetcher.state !== "idle";
  const saved = !busy && fetcher.data?.result ? fetcher.data : null;
  const person = useDraft({ email: contact.email, lists: contact.lists }, saved);
  const known = useDraft<Record<string, unknown>>(contact.fields, saved);
  const on = person.draft.lists;
  const dirty = person.changed || known.changed;
  return (
    <section className="card space-y-3 p-5" aria-label="What is known">
      <Line label="Address">
        <Input
          type="email"
          value={person.draft.email}
          onChange={(event) => person.set({ email: event.target.value })}
        />
      </Line>
      {fields.map((field) => (
        <Line key={field.key} label={field.label}>
          <ValueInput
            field={field}
            value={known.draft[field.key]}
            onChange={(value) => known.set({ [field.key]: value })}
          />
        </Line>
      ))}
      <fieldset className="grid grid-cols-[84px_1fr] gap-2">
        <legend className="sr-only">Lists</legend>
        <span className="text-ink-soft" aria-hidden>
          Lists
        </span>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {all.length === 0 && <span className="text-ink-soft">There are none.</span>}
          {all.map((list) => (
            <label key={list.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={on.includes(list.id)}
                onChange={() =>
                  person.set({
                    lists: on.includes(list.id) ? on.filter((id) => id !== list.id) : [...on, list.id],
                  })
                }
              />{" "}
              {list.name}
            </label>
          ))}
        </div>
      </fieldset>
      <div className="sticky bottom-0 -mx-5 -mb-5 flex items-center gap-3 rounded-b-lg border-t bg-paper px-5 py-3">
        <Button
          kind="primary"
          disabled={!dirty || busy}
          onClick={() =>
            fetcher.submit(JSON.stringify({ ...person.draft, fields: known.changes }), {
              method: "post",
              encType: "application/json",
            })
          }
        >
          Save
        </Button>
        {!dirty && fetcher.data?.result && !busy && (
          <span role="status" className="text-green">
            Saved
          </span>
        )}
        {fetcher.data?.problem && !busy && (
          <span role="alert" className="text-red">
            {fetcher.data.problem}
          </span>
        )}
      </div>
    </section>
  );
}
