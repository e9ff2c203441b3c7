import {
  CircleAlert,
  CircleCheck,
  Clock,
  Copy,
  Ellipsis,
  Pencil,
  Plus,
  Search,
  SendHorizontal,
  Trash2,
  TypeOutline,
} from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";
import { data, Link, redirect, useFetcher, useSearchParams } from "react-router";
import { z } from "zod";
import { LAYOUTS } from "~/core/compose";
import { inlineText } from "~/core/email";
import {
  BIN_DAYS,
  binned,
  type CampaignLine,
  campaigns,
  copyCampaign,
  deleteCampaign,
  renameCampaign,
  restoreCampaign,
  startCampaign,
} from "~/server/campaigns/campaigns";
import { draftNumbers } from "~/server/campaigns/rendering";
import { whenWords } from "~/server/dispatch/dispatches";
import { Refusal } from "~/server/septima";
import { BinDialog } from "../campaigns/bin-dialog";
import { StartDialog } from "../campaigns/start-dialog";
import { fieldsInput } from "../input";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Dialog } from "../ui/dialog";
import { Input, Labelled } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Empty, Page } from "../ui/page";
import { count, counted, timeWords } from "../ui/time";
import type { Route } from "./+types/campaigns";

export async function loader({ context }: Route.LoaderArgs) {
  const lines = await campaigns(context.septima);
  return {
    now: context.septima.now(),
    bin: await binned(context.septima),
    days: BIN_DAYS,
    layouts: LAYOUTS.map(({ id, name, about }) => ({ id, name, about })),
    campaigns: await Promise.all(
      lines.map(async (line) => ({
        ...line,
        subject: inlineText(line.subject),
        when: line.dispatch && whenWords(line.dispatch),
        numbers: line.dispatch ? null : await draftNumbers(context.septima, line),
      })),
    ),
  };
}

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("start"), name: z.string(), layout: z.string() }),
  z.object({ intent: z.literal("rename"), id: z.string(), name: z.string(), series: z.string() }),
  z.object({ intent: z.literal("copy"), id: z.string(), open: z.string().optional() }),
  z.object({ intent: z.literal("delete"), id: z.string() }),
  z.object({ intent: z.literal("restore"), id: z.string() }),
]);

export async function action({ context, request }: Route.ActionArgs) {
  const { septima } = context;
  const body = await fieldsInput(request, Body);
  try {
    switch (body.intent) {
      case "start":
        return redirect(`/campaigns/${await startCampaign(septima, body.name, body.layout)}/compose`);
      case "rename":
        await renameCampaign(septima, body.id, body.name, body.series);
        return data({ done: "rename", id: body.id, problem: null });
      case "copy": {
        const id = await copyCampaign(septima, body.id);
        return body.open ? redirect(`/campaigns/${id}/compose`) : data({ done: "copy", id, problem: null });
      }
      case "delete":
        await deleteCampaign(septima, body.id);
        return data({ done: "delete", id: body.id, problem: null });
      case "restore":
        await restoreCampaign(septima, body.id);
        return data({ done: "restore", id: body.id, problem: null });
    }
  } catch (error) {
    if (error instanceof Refusal)
      return data({ done: null, id: null, problem: error.message }, { status: error.status });
    throw error;
  }
}

type Line = Route.ComponentProps["loaderData"]["campaigns"][number];

const GROUPS = [
  { key: "hand", label: "Needs you" },
  { key: "going", label: "Going out" },
  { key: "sent", label: "Sent" },
] as const;

function groupOf({ dispatch }: Pick<CampaignLine, "dispatch">): (typeof GROUPS)[number]["key"] {
  if (!dispatch || dispatch.state === "paused" || dispatch.state === "cancelled") return "hand";
  return dispatch.state === "sent" ? "sent" : "going";
}

export default function Campaigns({
  loaderData: { campaigns: lines, layouts, now, bin, days },
}: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const [starting, setStarting] = useState(false);
  const [searching, setSearching] = useState(false);
  const query = params.get("q") ?? "";
  const series = params.get("series") ?? "";
  const allSeries = [...new Set(lines.map((line) => line.series).filter(Boolean))].sort();
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = lines.filter((line) => {
    const haystack = `${line.name} ${line.series} ${line.subject}`.toLowerCase();
    return (series === "" || line.series === series) && words.every((word) => haystack.includes(word));
  });
  const set = (key: string, value: string) =>
    setParams(
      (before) => {
        if (value === "") before.delete(key);
        else before.set(key, value);
        return before;
      },
      { replace: true, preventScrollReset: true },
    );

  return (
    <Page
      title="Campaigns"
      about={lines.length > 0 ? String(lines.length) : undefined}
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
        <div className="relative w-70 max-w-full">
          <Search className="absolute top-2 left-2.5 size-4 text-ink-soft" aria-hidden />
          <Input
            aria-label="Search campaigns"
            placeholder="Name, series, subject"
            className="pl-8"
            defaultValue={query}
            onChange={(event) => set("q", event.target.value)}
          />
        </div>
        <Choose
          label="Series"
          className="w-44!"
          value={series || "all"}
          onChange={(name) => set("series", name === "all" ? "" : name)}
          options={[
            { value: "all", label: "All series" },
            ...allSeries.map((name) => ({ value: name, label: name })),
          ]}
        />
      </div>
      {lines.length === 0 && (
        <Empty title="Your campaigns will be here">
          <p className="mb-3">
            A campaign is one email with its readers and its moment. Start with a layout.
          </p>
          <Button onClick={() => setStarting(true)}>New campaign</Button>
        </Empty>
      )}
      {lines.length > 0 && shown.length === 0 && (
        <Empty title="No campaign matches">
          <Button kind="quiet" onClick={() => setParams({})}>
            Show all {lines.length}
          </Button>
        </Empty>
      )}
      {GROUPS.map(({ key, label }) => {
        const group = shown.filter((line) => groupOf(line) === key);
        return (
          group.length > 0 && (
            <section key={key} className="mb-5" aria-labelledby={`group-${key}`}>
              <h2 id={`group-${key}`} className="mb-1.5 font-medium">
                {label} <span className="ml-1 text-ink-soft">{group.length}</span>
              </h2>
              <ul className="card divide-y">
                {group.map((line) => (
                  <CampaignRow key={line.id} line={line} now={now} />
                ))}
              </ul>
            </section>
          )
        );
      })}
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

function CampaignRow({ line, now }: { line: Line; now: number }) {
  const fetcher = useFetcher<typeof action>();
  const undo = useFetcher<typeof action>();
  const notify = useNotify();
  const [renaming, setRenaming] = useState(false);
  const submit = (intent: string, more: Record<string, string> = {}) =>
    fetcher.submit({ intent, id: line.id, ...more }, { method: "post" });

  const { data: answer } = fetcher;
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is spoken of once, when it comes
  useEffect(() => {
    if (!answer) return;
    if (answer.problem) notify({ text: answer.problem, bad: true });
    else if (answer.done === "copy") notify({ text: `“${line.name}” was copied.` });
    else if (answer.done === "rename") setRenaming(false);
  }, [answer]);

  const remove = () => {
    submit("delete");
    notify({
      text: `“${line.name}” is in the bin.`,
      action: {
        label: "Undo",
        run: () => undo.submit({ intent: "restore", id: line.id }, { method: "post", action: "/campaigns" }),
      },
    });
  };
  const to = `/campaigns/${line.id}/${line.dispatch ? "send" : "compose"}`;
  return (
    <li className="flex items-center gap-4 px-3.5 py-2.5">
      <Link
        to={to}
        className="block h-16 w-14 shrink-0 overflow-hidden rounded-sm border bg-white"
        tabIndex={-1}
        aria-hidden
      >
        <iframe
          title={`Picture of ${line.name}`}
          src={`/campaigns/${line.id}/picture?revision=${line.revision}`}
          sandbox=""
          loading="lazy"
          tabIndex={-1}
          className="pointer-events-none h-[732px] w-[640px] origin-top-left border-0"
          style={{ transform: "scale(0.0875)" }}
        />
      </Link>
      <div className="min-w-0 grow basis-2/5">
        <Link to={to} className="block truncate font-semibold hover:text-mulberry">
          {line.name}
        </Link>
        <p className="truncate text-ink-soft">
          {line.series && `${line.series} · `}
          {line.subject || "no subject yet"}
        </p>
      </div>
      <Standing line={line} now={now} />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <IconButton label={`More for ${line.name}`}>
            <Ellipsis className="size-4" />
          </IconButton>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            className="z-40 min-w-40 rounded-md border bg-paper p-1 shadow-lg"
          >
            {[
              { label: "Rename", icon: Pencil, run: () => setRenaming(true) },
              { label: "Copy", icon: Copy, run: () => submit("copy") },
              { label: "Delete", icon: Trash2, run: remove },
            ].map(({ label, icon: Icon, run }) => (
              <DropdownMenu.Item
                key={label}
                onSelect={run}
                className="flex cursor-default items-center gap-2 rounded px-2 py-1.5 outline-none data-highlighted:bg-black/6"
              >
                <Icon className="size-4 text-ink-soft" aria-hidden /> {label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog open={renaming} onClose={() => setRenaming(false)} title="Rename">
        <fetcher.Form method="post" className="space-y-4">
          <input type="hidden" name="intent" value="rename" />
          <input type="hidden" name="id" value={line.id} />
          <Labelled label="Name">
            {(id) => <Input id={id} name="name" defaultValue={line.name} required />}
          </Labelled>
          <Labelled label="Series" hint="Campaigns of a series are found and compared together.">
            {(id) => <Input id={id} name="series" defaultValue={line.series} />}
          </Labelled>
          <div className="flex justify-end gap-2">
            <Button type="submit" kind="primary">
              Rename
            </Button>
          </div>
        </fetcher.Form>
      </Dialog>
    </li>
  );
}

/** Where it stands, what it waits for, when it goes. */
function Standing({ line, now }: { line: Line; now: number }) {
  const { dispatch } = line;
  const [icon, first, second] = !dispatch
    ? [
        <TypeOutline key="i" className="size-4 text-ink-soft" aria-hidden />,
        "Draft",
        `changed ${timeWords(line.updatedAt, now)}`,
      ]
    : dispatch.state === "scheduled"
      ? [<Clock key="i" className="size-4 text-green" aria-hidden />, "Scheduled", line.when]
      : dispatch.state === "paused"
        ? [
            <CircleAlert key="i" className="size-4 text-amber" aria-hidden />,
            "Paused",
            dispatch.trouble ?? "by hand",
          ]
        : dispatch.state === "sent"
          ? [
              <CircleCheck key="i" className="size-4 text-green" aria-hidden />,
              "Sent",
              timeWords(dispatch.finishedAt ?? line.updatedAt, now),
            ]
          : [
              <SendHorizontal key="i" className="size-4 text-green" aria-hidden />,
              "Sending",
              `${count(dispatch.done)} of ${count(dispatch.total)}`,
            ];
  return (
    <>
      <div className="grid basis-1/4 grid-cols-[20px_1fr] items-center gap-x-1.5 max-md:hidden">
        {icon}
        <p className="font-semibold">{first}</p>
        <p className="col-start-2 truncate text-ink-soft">{second}</p>
      </div>
      <p className="w-28 shrink-0 text-right text-ink-soft max-lg:hidden">
        {line.numbers && (
          <span className="block font-semibold text-teal">{counted(line.numbers.editions, "edition")}</span>
        )}
        {dispatch
          ? counted(dispatch.state === "sent" ? dispatch.done : dispatch.total, "reader")
          : line.numbers
            ? counted(line.numbers.readers, "reader")
            : "no readers yet"}
      </p>
    </>
  );
}
