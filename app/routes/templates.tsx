import { Star } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { data, redirect, useFetcher } from "react-router";
import { z } from "zod";
import { PURPOSES, resolveTheme, THEMES } from "~/core/email";
import { deleteCampaign, restoreCampaign } from "~/server/campaigns/campaigns";
import { takeTemplateFile } from "~/server/campaigns/template-files";
import {
  copyTemplate,
  describeTemplate,
  setFavourite,
  startFromTemplate,
  type TemplateLine,
  templateFacts,
  templateOffers,
  templates,
} from "~/server/campaigns/templates";
import { Refusal } from "~/server/refusal";
import { drawAhead } from "~/server/workspace/drawn";
import { allThemes, ownThemes } from "~/server/workspace/themes";
import { Filter } from "../campaigns/filter";
import { ManyBar } from "../campaigns/many-bar";
import { Mark } from "../campaigns/mark";
import { useMarks } from "../campaigns/use-marks";
import { formInput, input } from "../input";
import { OneTemplate } from "../templates/one-template";
import { SEASON_NAMES } from "../templates/seasons";
import { FileButton } from "../ui/file-button";
import { SearchInput } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Empty } from "../ui/page";
import { TruePicture } from "../ui/true-picture";
import { useAddress } from "../ui/use-address";
import type { Route } from "./+types/templates";

export async function loader({ context: { septima } }: Route.LoaderArgs) {
  // The pictures ask for them one by one; so they are being drawn already.
  void drawAhead().catch(() => undefined);
  const [all, themes, own] = await Promise.all([templates(septima), allThemes(septima), ownThemes(septima)]);
  const offers = await Promise.all(
    all.map(async (line) =>
      line.own && line.used > 0 ? (await templateOffers(septima, line.id)).length : 0,
    ),
  );
  return {
    now: septima.now(),
    templates: all.map((line, index) => ({
      ...line,
      offers: offers[index],
      width: resolveTheme(line.theme, themes).width,
    })),
    themes: [...own.map(({ theme }) => theme), ...THEMES].map(({ id, name, light, fonts }) => ({
      id,
      name,
      light,
      heading: fonts.heading,
    })),
  };
}

const Facts = {
  name: z.string(),
  about: z.string(),
  purpose: z.string(),
  season: z.string(),
  labels: z.string(),
};
const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("start"), id: z.string(), name: z.string(), theme: z.string().optional() }),
  z.object({ intent: z.literal("copy"), id: z.string() }),
  z.object({ intent: z.literal("favourite"), id: z.string(), marked: z.enum(["yes", "no"]) }),
  z.object({ intent: z.literal("describe"), id: z.string(), ...Facts }),
  z.object({ intent: z.literal("delete"), id: z.string() }),
  z.object({ intent: z.literal("restore"), id: z.string() }),
  z.object({ intent: z.literal("bring"), file: z.instanceof(File) }),
]);

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = input(Body, Object.fromEntries(await formInput(request)));
  const done = (what: string, id: string) => data({ done: what, id, problem: null });
  try {
    switch (body.intent) {
      case "start":
        return redirect(
          `/campaigns/${await startFromTemplate(septima, body.id, body.name, body.theme)}/compose`,
        );
      case "copy":
        return redirect(`/campaigns/${await copyTemplate(septima, body.id)}/compose`);
      case "favourite":
        await setFavourite(septima, body.id, body.marked === "yes");
        return done("favourite", body.id);
      case "describe":
        await describeTemplate(septima, body.id, templateFacts(body));
        return done("describe", body.id);
      case "delete":
        await deleteCampaign(septima, body.id);
        return done("delete", body.id);
      case "restore":
        await restoreCampaign(septima, body.id);
        return done("restore", body.id);
      case "bring":
        return done("bring", await takeTemplateFile(septima, body.file.name, await body.file.text()));
    }
  } catch (error) {
    if (error instanceof Refusal)
      return data({ done: null, id: null, problem: error.message }, { status: error.status });
    throw error;
  }
}

type Loaded = Route.ComponentProps["loaderData"]["templates"][number];

const SHELVES = [
  { value: "favourite", label: "Favourites" },
  { value: "recent", label: "Used lately" },
  { value: "own", label: "Your own" },
  { value: "archived", label: "Archived" },
];

function onShelf(line: TemplateLine, shelf: string): boolean {
  if (line.archived !== (shelf === "archived")) return false;
  if (shelf === "favourite") return line.favourite;
  if (shelf === "recent") return line.lastUsed !== null;
  return shelf !== "own" || line.own;
}

function fits(line: Loaded, params: URLSearchParams): boolean {
  const purpose = params.get("purpose") ?? "";
  const season = params.get("season") ?? "";
  const columns = Number(params.get("columns") ?? 0);
  const words = (params.get("q") ?? "").toLowerCase().split(/\s+/).filter(Boolean);
  const label = PURPOSES.find(({ key }) => key === line.purpose)?.label ?? "";
  const haystack =
    `${line.name} ${line.about} ${line.season} ${label} ${line.labels.join(" ")} ${line.words}`.toLowerCase();
  return (
    (purpose === "" || line.purpose === purpose) &&
    (season === "" || line.season === season) &&
    (columns === 0 || (columns === 3 ? line.columns >= 3 : line.columns === columns)) &&
    onShelf(line, params.get("shelf") ?? "all") &&
    words.every((word) => haystack.includes(word))
  );
}

export default function Templates({ loaderData: { templates: all, themes, now } }: Route.ComponentProps) {
  const [params, change] = useAddress();
  const shown = useMemo(() => {
    const found = all.filter((line) => fits(line, params));
    return params.get("shelf") === "recent"
      ? found.sort((a, b) => (b.lastUsed ?? "").localeCompare(a.lastUsed ?? ""))
      : found;
  }, [all, params]);
  const marks = useMarks(shown);
  const chosen = all.find(({ id }) => id === params.get("template")) ?? shown[0];
  const purpose = params.get("purpose") ?? "";
  const archived = params.get("shelf") === "archived";
  return (
    <div className="flex h-screen max-lg:h-auto max-lg:flex-col">
      <title>Templates · Septima</title>
      <main className="min-w-0 grow overflow-y-auto px-7 py-5 max-sm:px-4">
        <header className="mb-3 flex flex-wrap items-center gap-3">
          <h1 className="text-[22px]/7 font-semibold">What do you want to say?</h1>
          <SearchInput
            className="ml-auto w-55"
            aria-label="Search templates"
            placeholder="Words, season, name"
            defaultValue={params.get("q") ?? ""}
            onChange={(event) => change({ q: event.target.value })}
          />
          <BringIn />
        </header>
        <fieldset className="mb-2 flex flex-wrap gap-1.5">
          <legend className="sr-only">Purpose</legend>
          {[{ key: "", label: "All" }, ...PURPOSES].map(({ key, label }) => (
            <button
              key={key}
              type="button"
              aria-pressed={purpose === key}
              onClick={() => change({ purpose: key })}
              className="rounded-full border bg-paper px-2.5 py-1 font-medium hover:border-ink-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-white"
            >
              {label}
            </button>
          ))}
        </fieldset>
        <div className="mb-4 flex flex-wrap items-center gap-2">
          <Filter name="shelf" label="Which" all="All" options={SHELVES} />
          <Filter name="season" label="Season" all="Any season" options={SEASON_NAMES} />
          <Filter
            name="columns"
            label="Columns"
            all="Any columns"
            options={[
              { value: "1", label: "One column" },
              { value: "2", label: "Two columns" },
              { value: "3", label: "Three and more" },
            ]}
          />
          <p className="text-ink-soft" role="status">
            {shown.length} of {all.filter((line) => line.archived === archived).length}
          </p>
        </div>
        {marks.ids.length > 0 && (
          <ManyBar noun="template" ids={marks.ids} archived={archived} onClear={marks.clear} />
        )}
        {shown.length === 0 ? (
          <Empty title={emptyTitle(params)}>
            {params.get("shelf") === "own"
              ? "Open a campaign and choose “Keep as a template” in its menu, or change a copy of one of ours."
              : params.get("shelf") === "favourite"
                ? "Mark a template with its star, and it stands here."
                : archived
                  ? "Mark templates of your own and choose Archive: they are not offered any more, and campaigns made from them stay as they are."
                  : "Take another purpose or season, or search for other words."}
          </Empty>
        ) : (
          <ul className="grid grid-cols-[repeat(auto-fill,200px)] gap-x-5 gap-y-6">
            {shown.map((line) => (
              <Card
                key={line.id}
                line={line}
                chosen={line.id === chosen?.id}
                onChoose={() => change({ template: line.id })}
                marked={marks.has(line.id)}
                onMark={(on) => marks.mark(line.id, on)}
              />
            ))}
          </ul>
        )}
      </main>
      {chosen && <OneTemplate key={chosen.id} line={chosen} themes={themes} now={now} />}
    </div>
  );
}

function emptyTitle(params: URLSearchParams): string {
  if (params.get("shelf") === "own") return "Templates of your own will be here";
  if (params.get("shelf") === "favourite") return "Your favourites will be here";
  if (params.get("shelf") === "archived") return "What you archive will be here";
  return "No template matches";
}

function Card({
  line,
  chosen,
  onChoose,
  marked,
  onMark,
}: {
  line: Loaded;
  chosen: boolean;
  onChoose(): void;
  marked: boolean;
  onMark(on: boolean): void;
}) {
  const fetcher = useFetcher();
  const favourite = fetcher.formData ? fetcher.formData.get("marked") === "yes" : line.favourite;
  return (
    <li className="relative">
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className="block w-full rounded-md text-left outline-offset-3 aria-pressed:outline-2 aria-pressed:outline-mulberry"
      >
        <span className="block overflow-hidden rounded-md border" aria-hidden>
          <TruePicture
            title={`Picture of ${line.name}`}
            src={`/templates/${line.id}/picture?revision=${line.revision}`}
            width={line.width + 40}
            shown={198}
            height={234}
          />
        </span>
        <span className="mt-1.5 block truncate pr-7 font-semibold">{line.name}</span>
      </button>
      {/* Ours stay as they are. */}
      {line.own && (
        <span className="absolute top-2 left-2 rounded-md bg-paper/90 p-1">
          <Mark name={line.name} checked={marked} onChange={onMark} />
        </span>
      )}
      <p className="mt-1 line-clamp-2 text-ink-soft">
        {line.own && "yours · "}
        {line.about}
      </p>
      <button
        type="button"
        aria-label={`Favourite ${line.name}`}
        aria-pressed={favourite}
        onClick={() =>
          fetcher.submit(
            { intent: "favourite", id: line.id, marked: favourite ? "no" : "yes" },
            { method: "post" },
          )
        }
        className="absolute top-[240px] right-0 grid size-7 place-items-center rounded-md hover:bg-black/6"
      >
        <Star className="size-4" fill={favourite ? "currentColor" : "none"} aria-hidden />
      </button>
    </li>
  );
}

/** Takes in a template that was kept as a file. */
function BringIn() {
  const fetcher = useFetcher<typeof action>();
  const notify = useNotify();
  const [, change] = useAddress();
  const { data: answer } = fetcher;
  const [said, setSaid] = useState<unknown>(null);
  useEffect(() => {
    if (!answer || answer === said) return;
    setSaid(answer);
    if (answer.problem) notify({ text: answer.problem, bad: true });
    else if (answer.done === "bring") {
      notify({ text: "The template was brought in." });
      change({ template: answer.id });
    }
  }, [answer, said, notify, change]);
  return (
    <FileButton
      label="Bring in"
      accept=".json,application/json"
      onFile={(file) => {
        const form = new FormData();
        form.set("intent", "bring");
        form.set("file", file);
        fetcher.submit(form, { method: "post", encType: "multipart/form-data" });
      }}
    />
  );
}
