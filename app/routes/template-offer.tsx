import { ArrowLeft, CircleCheck } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useFetcher } from "react-router";
import { z } from "zod";
import { takeTemplate, templateDesign, templateOffers } from "~/server/campaigns/templates";
import { jsonInput } from "../input";
import { orNotHere, orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Problem } from "../ui/form";
import { Empty, Page } from "../ui/page";
import { counted, timeWords } from "../ui/time";
import type { Route } from "./+types/template-offer";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { name } = await orNotHere(() => templateDesign(septima, params.template));
  const offers = await templateOffers(septima, params.template);
  return {
    now: septima.now(),
    id: params.template,
    name,
    offers: offers.map(({ changes, ...offer }) => ({
      ...offer,
      changes: changes.map(({ steps: _steps, ...change }) => change),
    })),
  };
}

const Body = z.object({ campaign: z.string(), parts: z.array(z.string()).max(10_000) });

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const { campaign, parts } = await jsonInput(request, Body);
  return orProblem(async () => {
    await takeTemplate(septima, params.template, campaign, parts);
    return { campaign, parts: parts.length };
  });
}

type Offer = Route.ComponentProps["loaderData"]["offers"][number];

/** A template's changes, offered to each unsent campaign that was made from it. */
export default function TemplateOfferPage({ loaderData: { id, name, offers, now } }: Route.ComponentProps) {
  return (
    <Page
      title={`Changes of “${name}”`}
      about={offers.length > 0 ? `for ${counted(offers.length, "unsent campaign")} made from it` : undefined}
      actions={
        <Link
          to={`/templates?template=${id}`}
          className="flex items-center gap-1.5 font-medium hover:text-mulberry"
        >
          <ArrowLeft className="size-4" aria-hidden /> Templates
        </Link>
      }
    >
      {offers.length === 0 && (
        <Empty title="Nothing to take over">
          Every unsent campaign made from this template has its changes, or has decided about them. Change the
          template, and what each campaign would get stands here.
        </Empty>
      )}
      <div className="space-y-5">
        {offers.map((offer) => (
          <OneOffer key={offer.campaign} offer={offer} now={now} />
        ))}
      </div>
    </Page>
  );
}

const WHAT = { added: "New", removed: "Goes", changed: "Changed", moved: "Moved" } as const;

function OneOffer({ offer, now }: { offer: Offer; now: number }) {
  const fetcher = useFetcher<typeof action>();
  const possible = offer.changes.filter(({ fits }) => fits !== "not");
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  // All that can be done is chosen at first, and again when the offer is another one.
  const key = offer.changes.map((change) => `${change.id} ${change.fits}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is offered decides
  useEffect(() => setTaken(new Set(possible.map(({ id }) => id))), [key]);
  const toggle = (id: string) => {
    const next = new Set(taken);
    if (!next.delete(id)) next.add(id);
    setTaken(next);
  };
  const send = (parts: string[]) =>
    fetcher.submit({ campaign: offer.campaign, parts }, { method: "post", encType: "application/json" });
  return (
    <section className="card" aria-label={offer.name}>
      <header className="flex flex-wrap items-center gap-3 border-b px-4 py-3">
        <h2 className="text-[15px] font-semibold">
          <Link to={`/campaigns/${offer.campaign}/compose`} className="hover:text-mulberry">
            {offer.name}
          </Link>
        </h2>
        <p className="text-ink-soft">changed {timeWords(offer.updatedAt, now)}</p>
        <div className="ml-auto flex gap-2">
          <Button disabled={fetcher.state !== "idle"} onClick={() => send([])}>
            Leave it as it is
          </Button>
          <Button
            kind="primary"
            disabled={taken.size === 0 || fetcher.state !== "idle"}
            onClick={() => send([...taken])}
          >
            Take {counted(taken.size, "change")}
          </Button>
        </div>
      </header>
      {fetcher.data?.problem && (
        <div className="p-3">
          <Problem>{fetcher.data.problem}</Problem>
        </div>
      )}
      <ul className="divide-y">
        {offer.changes.map((change) => (
          <li key={change.id} className="grid grid-cols-[auto_90px_minmax(0,1fr)] gap-3 px-4 py-3">
            <input
              type="checkbox"
              aria-label={`Take ${change.title}`}
              className="mt-0.5 size-4 accent-mulberry"
              checked={taken.has(change.id)}
              disabled={change.fits === "not"}
              onChange={() => toggle(change.id)}
            />
            <span className="text-ink-soft">{WHAT[change.what]}</span>
            <div className="min-w-0">
              <p className="font-semibold">{change.title}</p>
              {change.words && (
                <p className="wrap-anywhere whitespace-pre-line">
                  {change.words.before && <del className="text-ink-soft">{change.words.before}</del>}
                  {change.words.before && change.words.after && "\n"}
                  {change.words.after && <ins className="no-underline">{change.words.after}</ins>}
                </p>
              )}
              {change.looks.length > 0 && (
                <p className="text-ink-soft">Another {change.looks.map(looksWords).join(", ")}</p>
              )}
              {change.fits !== "wholly" && (
                <p className="mt-1 flex items-center gap-1.5 text-green">
                  <CircleCheck className="size-4" aria-hidden />
                  {change.fits === "not"
                    ? "You have made this your own; it stays as it is."
                    : "What you have made your own in it stays as it is."}
                </p>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The name of a property as words: `edgeWidth` is “edge width”. */
const looksWords = (name: string) => name.replace(/([A-Z])/g, " $1").toLowerCase();
