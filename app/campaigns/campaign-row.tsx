import {
  Archive,
  ArchiveRestore,
  CircleAlert,
  CircleCheck,
  Clock,
  Copy,
  Ellipsis,
  MessageSquare,
  Pencil,
  Repeat,
  SendHorizontal,
  Trash2,
  TypeOutline,
} from "lucide-react";
import { memo, useEffect, useState } from "react";
import { Link, useFetcher } from "react-router";
import { ask } from "../requests";
import { IconButton } from "../ui/button";
import { Menu, type MenuEntry } from "../ui/floating";
import { useNotify } from "../ui/notices";
import { count, counted, timeWords } from "../ui/time";
import { TruePicture } from "../ui/true-picture";
import { useAnswer } from "../ui/use-answer";
import { FilingDialog } from "./filing-dialog";
import { type Line, standingOf, waitingWords } from "./line";
import { Mark } from "./mark";

type Answer = { done: string | null; id: string | null; problem: string | null };

export const CampaignRow = memo(function CampaignRow({
  line,
  now,
  archived,
  marked,
  onMark,
}: {
  line: Line;
  now: number;
  archived: boolean;
  marked: boolean;
  onMark(id: string, on: boolean): void;
}) {
  const fetcher = useFetcher<Answer>();
  const undo = useFetcher();
  const notify = useNotify();
  const [filing, setFiling] = useState(false);
  const submit = (intent: string) => fetcher.submit({ intent, id: line.id }, { method: "post" });

  const { data: answer } = fetcher;
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is spoken of once, when it comes
  useEffect(() => {
    if (!answer) return;
    if (answer.problem) notify({ text: answer.problem, bad: true });
    else if (answer.done === "copy") notify({ text: `“${line.name}” was copied.` });
  }, [answer]);

  const takeBack = (intent: string) => () =>
    undo.submit({ intent, id: line.id }, { method: "post", action: "/campaigns" });
  const remove = () => {
    submit("delete");
    notify({
      text: `“${line.name}” is in the bin.`,
      action: { label: "Undo", run: takeBack("restore") },
    });
  };
  const putAway = () => {
    submit(archived ? "unarchive" : "archive");
    notify({
      text: archived ? `“${line.name}” is in the list again.` : `“${line.name}” is put away.`,
      action: { label: "Undo", run: takeBack(archived ? "archive" : "unarchive") },
    });
  };
  const to = `/campaigns/${line.id}/${line.dispatch ? "send" : "compose"}`;
  return (
    <div className="flex items-center gap-4 px-3.5 py-2.5">
      <Mark name={line.name} checked={marked} onChange={(on) => onMark(line.id, on)} />
      <Link
        to={to}
        className="block h-16 w-14 shrink-0 overflow-hidden rounded-sm border bg-white"
        tabIndex={-1}
        aria-hidden
      >
        <TruePicture
          title={`Picture of ${line.name}`}
          src={`/campaigns/${line.id}/picture?revision=${line.revision}`}
          width={640}
          shown={56}
          height={64}
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
        {line.why !== null && <p className="truncate text-xs text-ink-soft">{line.why}</p>}
        <Waits line={line} />
        {line.labels.length > 0 && (
          <p className="mt-0.5 flex gap-1 overflow-hidden">
            {line.labels.map((label) => (
              <span key={label} className="max-w-32 truncate rounded-full border px-2 text-xs text-ink-soft">
                {label}
              </span>
            ))}
          </p>
        )}
      </div>
      <Standing line={line} now={now} />
      <RowMenu
        label={`More for ${line.name}`}
        entries={() => [
          { label: "Name and labels", icon: Pencil, run: () => setFiling(true) },
          { label: "Copy", icon: Copy, run: () => submit("copy") },
          archived
            ? { label: "Bring back", icon: ArchiveRestore, run: putAway }
            : { label: "Archive", icon: Archive, run: putAway },
          { label: "Delete", icon: Trash2, run: remove },
        ]}
      />
      {filing && <FilingDialog line={line} onClose={() => setFiling(false)} />}
    </div>
  );
});

/** A menu that is only a button until it is asked for: rows come and go by the dozen while the list is scrolled. */
function RowMenu({ label, entries }: { label: string; entries(): readonly MenuEntry[] }) {
  const [asked, setAsked] = useState(false);
  const button = (
    <IconButton icon={Ellipsis} label={label} onClick={() => setAsked(true)} aria-haspopup="menu" />
  );
  return asked ? <Menu opened button={button} parts={[{ entries: entries() }]} /> : button;
}

/** Who was asked to look it over, and how that stands; of one that went nobody needs to know. */
function Waits({ line: { id, name, waiting, dispatch } }: { line: Line }) {
  if (!waiting || (dispatch && dispatch.state !== "scheduled")) return null;
  const { words, todo } = waitingWords(waiting);
  if (words === "") return null;
  return (
    <Link
      to={`/campaigns/${id}/review`}
      aria-label={`Review of ${name}: ${words}`}
      className={`flex min-w-0 items-center gap-1.5 hover:underline ${todo ? "text-amber" : "text-ink-soft"}`}
    >
      <MessageSquare className="size-3.5 shrink-0" aria-hidden />
      <span className="truncate">{words}</span>
    </Link>
  );
}

/** Where it stands, what it waits for, when it goes. */
function Standing({ line, now }: { line: Line; now: number }) {
  const { dispatch } = line;
  const [icon, first, second] =
    standingOf(line) === "repeats"
      ? [<Repeat key="i" className="size-4 text-green" aria-hidden />, "Repeats", `next ${line.next}`]
      : !dispatch
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
      <div className="w-28 shrink-0 text-right text-ink-soft max-lg:hidden">
        {dispatch ? (
          counted(dispatch.state === "sent" ? dispatch.done : dispatch.total, "reader")
        ) : !line.chosen ? (
          "no readers yet"
        ) : (
          <Numbers id={line.id} revision={line.revision} />
        )}
      </div>
    </>
  );
}

/** How many readers and editions a draft has: asked for when the row comes into view, as it takes a while to reckon. */
function Numbers({ id, revision }: { id: string; revision: number }) {
  // A row that only flies past is not worth the question.
  const { last: numbers } = useAnswer(
    `${id} ${revision}`,
    (signal) => ask("/campaigns/:campaign/numbers", { at: { campaign: id }, query: { revision }, signal }),
    150,
  );
  if (!numbers) return <span aria-hidden>…</span>;
  return (
    <>
      <span className="block font-semibold text-teal">{counted(numbers.editions, "edition")}</span>
      {counted(numbers.readers, "reader")}
    </>
  );
}
