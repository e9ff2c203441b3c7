import { Plus, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { data, redirect } from "react-router";
import { z } from "zod";
import { LAYOUTS } from "~/core/compose";
import { inlineText, SEASONS } from "~/core/email";
import {
  BIN_DAYS,
  binned,
  campaigns,
  copyCampaign,
  deleteCampaign,
  fileCampaign,
  restoreCampaign,
  setArchived,
  startCampaign,
} from "~/server/campaigns/campaigns";
import { whenWords } from "~/server/dispatch/dispatches";
import { Refusal } from "~/server/refusal";
import { allWaiting } from "~/server/review/reviews";
import { BinDialog } from "../campaigns/bin-dialog";
import { CampaignList } from "../campaigns/campaign-list";
import { Filter } from "../campaigns/filter";
import { standingOf } from "../campaigns/line";
import { ManyBar } from "../campaigns/many-bar";
import { StartDialog } from "../campaigns/start-dialog";
import { useMarks } from "../campaigns/use-marks";
import { fieldsInput } from "../input";
import { SEASON_NAMES } from "../templates/seasons";
import { Button } from "../ui/button";
import { SearchInput } from "../ui/form";
import { Empty, Page } from "../ui/page";
import { useAddress } from "../ui/use-address";
import { whenIdle } from "../ui/when-idle";
import type { Route } from "./+types/campaigns";

export async function loader({ context, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const query = searchParams.get("q") ?? "";
  const archived = searchParams.get("state") === "archived";
  const lines = await campaigns(context.septima, query, archived);
  const waiting = await allWaiting(context.septima);
  return {
    now: context.septima.now(),
    query,
    archived,
    // What is put away is not in the list, but may be what is looked for.
    away: query === "" || archived ? 0 : (await campaigns(context.septima, query, true)).length,
    bin: await binned(context.septima),
    days: BIN_DAYS,
    layouts: LAYOUTS.map(({ id, name, about }) => ({ id, name, about })),
    campaigns: lines.map((line) => ({
      ...line,
      readers: undefined,
      chosen: line.readers.include.length > 0,
      subject: inlineText(line.subject),
      when: line.dispatch && whenWords(line.dispatch),
      next: line.repeats && whenWords(line.repeats),
      waiting: waiting.get(line.id) ?? null,
    })),
  };
}

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("start"), name: z.string(), layout: z.string() }),
  z.object({
    intent: z.literal("file"),
    id: z.string(),
    name: z.string(),
    series: z.string(),
    labels: z.string(),
    season: z.string(),
  }),
  z.object({ intent: z.literal("copy"), id: z.string(), open: z.string().optional() }),
  z.object({ intent: z.enum(["delete", "restore", "archive", "unarchive"]), id: z.string() }),
]);

export async function action({ context, request }: Route.ActionArgs) {
  const { septima } = context;
  const body = await fieldsInput(request, Body);
  try {
    switch (body.intent) {
      case "start":
        return redirect(`/campaigns/${await startCampaign(septima, body.name, body.layout)}/compose`);
      case "file":
        await fileCampaign(septima, body.id, {
          name: body.name,
          series: body.series,
          season: SEASONS.find((season) => season === body.season) ?? "",
          labels: body.labels,
        });
        break;
      case "copy": {
        const id = await copyCampaign(septima, body.id);
        return body.open ? redirect(`/campaigns/${id}/compose`) : data({ done: "copy", id, problem: null });
      }
      case "delete":
        await deleteCampaign(septima, body.id);
        break;
      case "restore":
        await restoreCampaign(septima, body.id);
        break;
      default:
        await setArchived(septima, body.id, body.intent === "archive");
    }
    return data({ done: body.intent as string | null, id: body.id, problem: null });
  } catch (error) {
    if (error instanceof Refusal)
      return data({ done: null, id: null, problem: error.message }, { status: error.status });
    throw error;
  }
}

const STATES = [
  { value: "draft", label: "Drafts" },
  { value: "scheduled", label: "Scheduled" },
  { value: "repeats", label: "Repeats" },
  { value: "sending", label: "Going out" },
  { value: "paused", label: "Paused" },
  { value: "sent", label: "Sent" },
  { value: "archived", label: "Archived" },
];

/** So long after the last letter the search begins, in milliseconds. */
const REST = 150;

export default function Campaigns({
  loaderData: { campaigns: lines, layouts, now, bin, days, query, archived, away },
}: Route.ComponentProps) {
  const [params, change] = useAddress();
  // A campaign is opened next, most likely: its composer comes while one reads.
  useEffect(() => whenIdle(() => void import("../composer/shell/composer"), 3000), []);
  const [starting, setStarting] = useState(false);
  const [searching, setSearching] = useState(false);
  const [series, season, label] = ["series", "season", "label"].map((key) => params.get(key) ?? "");
  const state = params.get("state") ?? "all";
  const distinct = (values: string[]) => [...new Set(values.filter(Boolean))].sort();
  const allSeries = distinct(lines.map((line) => line.series));
  const allLabels = distinct(lines.flatMap((line) => line.labels));
  const shown = lines.filter(
    (line) =>
      (series === "" || line.series === series) &&
      (season === "" || line.season === season) &&
      (label === "" || line.labels.includes(label)) &&
      (state === "all" || state === "archived" || standingOf(line) === state),
  );
  const marks = useMarks(shown);
  const filtered = query !== "" || series + season + label !== "" || state !== "all";

  return (
    <Page
      title="Campaigns"
      about={lines.length > 0 ? String(shown.length) : undefined}
      actions={
        <>
          {bin.length > 0 && (
            <Button onClick={() => setSearching(true)}>
              <Trash2 className="size-4" aria-hidden /> Bin
              <span className="text-ink-soft">{bin.length}</span>
            </Button>
          )}
          <Button kind="primary" onClick={() => setStarting(true)}>
            <Plus className="size-4" aria-hidden /> New campaign
          </Button>
        </>
      }
    >
      <div className="mb-4 flex flex-wrap gap-2">
        <SearchField value={query} onChange={(words) => change({ q: words })} />
        <Filter name="series" label="Series" all="All series" options={allSeries} />
        <Filter name="state" label="State" all="Every state" options={STATES} />
        <Filter name="season" label="Season" all="Any season" options={SEASON_NAMES} />
        {(allLabels.length > 0 || label !== "") && (
          <Filter name="label" label="Label" all="Any label" options={allLabels} />
        )}
      </div>
      {lines.length === 0 && !filtered && (
        <Empty title="Your campaigns will be here">
          <p className="mb-3">
            A campaign is one email with its readers and its moment. Start with a layout or a template.
          </p>
          <Button onClick={() => setStarting(true)}>New campaign</Button>
        </Empty>
      )}
      {filtered && shown.length === 0 && (
        <Empty title={archived && query === "" ? "What you archive will be here" : "No campaign matches"}>
          <Button
            kind="quiet"
            onClick={() => change({ q: "", series: "", season: "", label: "", state: "" })}
          >
            Show all
          </Button>
        </Empty>
      )}
      {marks.ids.length > 0 && (
        <ManyBar noun="campaign" ids={marks.ids} archived={archived} onClear={marks.clear} />
      )}
      {shown.length > 0 && (
        <CampaignList lines={shown} now={now} archived={archived} sought={query !== ""} marks={marks} />
      )}
      {away > 0 && (
        <p className="mt-4">
          <Button kind="quiet" onClick={() => change({ state: "archived" })}>
            {away === 1 ? "1 archived campaign matches, too" : `${away} archived campaigns match, too`}
          </Button>
        </p>
      )}
      <BinDialog
        open={searching && bin.length > 0}
        onClose={() => setSearching(false)}
        bin={bin}
        now={now}
        days={days}
      />
      <StartDialog open={starting} onClose={() => setStarting(false)} layouts={layouts} />
    </Page>
  );
}

/** Searches while one types, a moment after the last letter. */
function SearchField({ value, onChange }: { value: string; onChange(words: string): void }) {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <SearchInput
      className="w-70 max-w-full"
      aria-label="Search campaigns"
      placeholder="Name, label, words, link, picture"
      defaultValue={value}
      onChange={(event) => {
        const words = event.target.value;
        clearTimeout(timer.current);
        timer.current = setTimeout(() => onChange(words.trim()), REST);
      }}
    />
  );
}
