import { ArrowLeft, CircleCheck } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useFetcher } from "react-router";
import { z } from "zod";
import { resolveTheme } from "~/core/email";
import { fingerprint } from "~/core/steps";
import { takeTemplates } from "~/server/campaigns/template-offers";
import { templateDesign, templateOffers } from "~/server/campaigns/templates";
import { allThemes } from "~/server/workspace/themes";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import { Button } from "../ui/button";
import { Difference } from "../ui/difference";
import { Problem } from "../ui/form";
import { Empty, Page } from "../ui/page";
import { counted, timeWords } from "../ui/time";
import { TruePicture } from "../ui/true-picture";
import type { Route } from "./+types/template-offer";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { name, email } = await templateDesign(septima, params.template);
  const [offers, themes] = await Promise.all([templateOffers(septima, params.template), allThemes(septima)]);
  return {
    now: septima.now(),
    id: params.template,
    name,
    // What changes of the template is in the address of each picture, which are kept by it.
    revision: fingerprint(email),
    offers: offers.map(({ changes, theme, ...offer }) => ({
      ...offer,
      width: resolveTheme(theme, themes).width,
      changes: changes.map(({ steps: _steps, ...change }) => change),
    })),
  };
}

const Body = z.array(z.object({ campaign: z.string(), parts: z.array(z.string()).max(10_000) })).max(1000);

export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const asked = await jsonInput(request, Body);
  return orProblem(async () => {
    await takeTemplates(septima, params.template, asked);
    return { done: asked.length };
  });
}

type Offer = Route.ComponentProps["loaderData"]["offers"][number];

/** A template's changes, offered to each unsent campaign that was made from it. */
export default function TemplateOfferPage({
  loaderData: { id, name, revision, offers, now },
}: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const takeAll = () =>
    fetcher.submit(
      offers.map(({ campaign, changes }) => ({ campaign, parts: possible(changes).map((one) => one.id) })),
      { method: "post", encType: "application/json" },
    );
  return (
    <Page
      title={`Changes of “${name}”`}
      about={offers.length > 0 ? `for ${counted(offers.length, "unsent campaign")} made from it` : undefined}
      problem={fetcher.data?.problem}
      actions={
        <>
          <Link
            to={`/templates?template=${id}`}
            className="flex items-center gap-1.5 font-medium hover:text-mulberry"
          >
            <ArrowLeft className="size-4" aria-hidden /> Templates
          </Link>
          {offers.length > 1 && (
            <Button kind="primary" busy={fetcher.state !== "idle"} onClick={takeAll}>
              Take all changes in {counted(offers.length, "campaign")}
            </Button>
          )}
        </>
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
          <OneOffer
            key={offer.campaign}
            template={id}
            revision={revision}
            offer={offer}
            now={now}
            only={offers.length === 1}
          />
        ))}
      </div>
    </Page>
  );
}

const WHAT = { added: "New", removed: "Goes", changed: "Changed", moved: "Moved" } as const;

const possible = (changes: Offer["changes"]) => changes.filter(({ fits }) => fits !== "not");

function OneOffer({
  template,
  revision,
  offer,
  now,
  only,
}: {
  template: string;
  revision: string;
  offer: Offer;
  now: number;
  only: boolean;
}) {
  const fetcher = useFetcher<typeof action>();
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  // All that can be done is chosen at first, and again when the offer is another one.
  const key = offer.changes.map((change) => `${change.id} ${change.fits}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is offered decides
  useEffect(() => setTaken(new Set(possible(offer.changes).map(({ id }) => id))), [key]);
  const toggle = (id: string) => {
    const next = new Set(taken);
    if (!next.delete(id)) next.add(id);
    setTaken(next);
  };
  const send = (parts: string[]) =>
    fetcher.submit([{ campaign: offer.campaign, parts }], { method: "post", encType: "application/json" });
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
          <Button busy={fetcher.state !== "idle"} onClick={() => send([])}>
            Leave it as it is
          </Button>
          <Button
            kind={only ? "primary" : "plain"}
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
      <div className="flex items-start max-md:flex-col">
        <ul className="min-w-0 grow divide-y max-md:w-full">
          {offer.changes.map((change) => (
            <li key={change.id} className="grid grid-cols-[auto_90px_minmax(0,1fr)] gap-3 px-4 py-3">
              <input
                type="checkbox"
                aria-label={`Take ${change.title}`}
                className="mt-0.5 size-4"
                checked={taken.has(change.id)}
                disabled={change.fits === "not"}
                onChange={() => toggle(change.id)}
              />
              <span className="text-ink-soft">{WHAT[change.what]}</span>
              <div className="min-w-0">
                <p className="font-semibold">{change.title}</p>
                {change.words && (
                  <p className="wrap-anywhere whitespace-pre-line">
                    <Difference {...change.words} />
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
        <div className="flex shrink-0 gap-3 p-4 max-md:pt-0">
          <Picture label="As it is" template={template} revision={revision} offer={offer} take={[]} />
          <Picture
            label="With what is chosen"
            template={template}
            revision={revision}
            offer={offer}
            take={[...taken]}
          />
        </div>
      </div>
    </section>
  );
}

/** The campaign, small: with the changes to some parts. */
function Picture({
  label,
  template,
  revision,
  offer,
  take,
}: {
  label: string;
  template: string;
  revision: string;
  offer: Offer;
  take: readonly string[];
}) {
  const query = new URLSearchParams([
    ["campaign", offer.campaign],
    ["revision", `${offer.revision}.${revision}`],
    ...take.map((part) => ["take", part]),
  ]);
  return (
    <figure>
      <span className="block overflow-hidden rounded-md border">
        <TruePicture
          title={`${offer.name}: ${label.toLowerCase()}`}
          src={`/templates/${template}/offer/picture?${query}`}
          width={offer.width + 40}
          shown={150}
          height={210}
        />
      </span>
      <figcaption className="mt-1 text-xs text-ink-soft">{label}</figcaption>
    </figure>
  );
}

/** The name of a property as words: `edgeWidth` is “edge width”. */
const looksWords = (name: string) => name.replace(/([A-Z])/g, " $1").toLowerCase();
