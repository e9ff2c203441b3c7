import { ChevronLeft } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, redirect, useSearchParams } from "react-router";
import { campaign } from "~/server/campaigns/campaigns";
import { templateOffers } from "~/server/campaigns/templates";
import { dispatchesOf } from "~/server/dispatch/dispatches";
import { StepCount } from "../preflight/step-count";
import { notForSearch } from "../revalidate";
import { counted } from "../ui/time";
import type { Route } from "./+types/campaign";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const { id, kind, name, series, readers } = await campaign(septima, params.campaign);
  // A template is composed and nothing else.
  if (kind !== "campaign" && !new URL(request.url).pathname.includes("/compose"))
    throw redirect(`/campaigns/${id}/compose`);
  const [dispatch] = await dispatchesOf(septima, id, 1);
  const offers = kind === "template" ? (await templateOffers(septima, id)).length : 0;
  return {
    id,
    kind,
    offers,
    name,
    series,
    chosen: readers.include.length > 0,
    state: dispatch?.state ?? null,
  };
}

export const shouldRevalidate = notForSearch;

/** Where a page inside puts its own tools, at the right of the bar. */
export const TOOLS_ID = "campaign-tools";

/** That place, once it is there. */
export function useTools(): HTMLElement | null {
  const [place, setPlace] = useState<HTMLElement | null>(null);
  useEffect(() => setPlace(document.getElementById(TOOLS_ID)), []);
  return place;
}

export default function CampaignBar({
  loaderData: { id, kind, offers, name, series, chosen, state },
}: Route.ComponentProps) {
  const [params] = useSearchParams();
  const reader = params.get("reader");
  const steps = [
    { to: "compose", label: "Compose", dot: null },
    { to: "readers", label: "Readers", dot: chosen },
    { to: "preflight", label: "Preflight", dot: null },
    { to: "proof", label: "Proof", dot: null },
    { to: "review", label: "Review", dot: null },
    { to: "send", label: "Send", dot: state === "sent" },
  ];
  return (
    <div className="flex h-screen flex-col">
      <header className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-3 border-b bg-paper px-3">
        <Link
          to={kind === "template" ? `/templates?template=${id}` : "/campaigns"}
          aria-label={kind === "template" ? "All templates" : "All campaigns"}
          className="flex shrink-0 items-center gap-1 rounded-md hover:bg-black/5"
        >
          <ChevronLeft className="size-4 text-ink-soft" aria-hidden />
          <img src="/mark.svg" alt="" className="size-6.5" />
        </Link>
        <div className="w-44 min-w-0 max-xl:w-32 max-sm:w-24 max-sm:grow">
          <p className="truncate leading-4 font-semibold">{name}</p>
          {kind === "template" && <p className="truncate text-xs leading-4 text-ink-soft">Template</p>}
          {series && <p className="truncate text-xs leading-4 text-ink-soft">{series}</p>}
        </div>
        <nav
          aria-label="Steps"
          className="flex h-12 items-stretch gap-1 max-lg:gap-0 max-sm:order-3 max-sm:h-9 max-sm:w-full max-sm:justify-between"
        >
          {kind === "template" && offers > 0 && (
            <Link
              to={`/templates/${id}/offer`}
              className="flex items-center px-3 font-medium text-amber underline"
            >
              Offer its changes to {counted(offers, "campaign")}
            </Link>
          )}
          {(kind === "campaign" ? steps : []).map((step) => (
            <NavLink
              key={step.to}
              to={{ pathname: `/campaigns/${id}/${step.to}`, search: reader ? `?reader=${reader}` : "" }}
              className="flex items-center gap-1.5 border-b-2 border-transparent px-3 text-ink-soft max-xl:px-2 hover:text-ink aria-[current=page]:border-mulberry aria-[current=page]:font-semibold aria-[current=page]:text-ink"
            >
              {step.dot !== null && (
                <span
                  className={`size-1.5 rounded-full ${step.dot ? "bg-green" : "bg-[#c9c6d0]"}`}
                  aria-hidden
                />
              )}
              {step.label}
              {step.to === "preflight" && <StepCount campaign={id} />}
              {step.dot && <span className="sr-only">done</span>}
            </NavLink>
          ))}
        </nav>
        <div id={TOOLS_ID} className="ml-auto flex min-w-0 flex-wrap items-center justify-end gap-1.5" />
      </header>
      <div className="min-h-0 grow">
        <Outlet />
      </div>
    </div>
  );
}
