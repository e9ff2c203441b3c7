/** An email to be looked over: any edition on any device, and beside it what is said of it. */
import { MessageSquare, X } from "lucide-react";
import { type ReactNode, useEffect, useMemo, useState } from "react";
import type { Difference } from "~/core/compose";
import { INBOXES } from "~/core/inboxes";
import type { Place, Talk } from "~/server/review/comments";
import type { EditionToSee } from "~/server/review/look";
import { WIDTHS } from "../preview/stage";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Choice, Problem } from "../ui/form";
import { count, counted } from "../ui/time";
import { type Pin, ReviewFrame } from "./review-frame";
import { SayForm, TalkCard } from "./talk-card";
import { useTalks } from "./use-talks";

const DEVICES = ["desktop", "tablet", "phone"] as const;
type Device = (typeof DEVICES)[number];

/** What the frame shows: an edition by its number, a class of mail programs or the text alone, as its address says it. */
export interface Seen {
  edition: number;
  as: string | null;
}

/** What an inbox shows of it, and the whole of it as text. */
export interface Lines {
  senderName: string;
  subject: string;
  preheader: string;
}

export interface Block {
  id: string;
  kind: string;
  title: string;
}

const WHOLE = { block: null, quote: null } as const;
const place = ({ kind, title }: Block) => `${kind} “${title}”`;

/** Whether somebody looks at it on a phone, and should see it as one shows it first. */
const onPhone = () => window.matchMedia("(max-width: 639px)").matches;

export function Desk({
  src,
  lines,
  seen,
  onSeen,
  blocks,
  editions,
  changed,
  children,
}: {
  /** The address of what is seen. */
  src: string;
  lines: Lines | null;
  seen: Seen;
  onSeen(seen: Seen): void;
  blocks: readonly Block[];
  editions: readonly EditionToSee[];
  changed: ReadonlyMap<string, Difference>;
  /** What stands above the comments. */
  children?: ReactNode;
}) {
  const { talks, problem, begin } = useTalks();
  const [device, setDevice] = useState<Device>("desktop");
  useEffect(() => {
    if (onPhone()) setDevice("phone");
  }, []);
  const [meant, setMeant] = useState<Place | null>(null);
  const [current, setCurrent] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  // On a phone the comments lie over the email when they are asked for.
  const [sheet, setSheet] = useState(false);
  const known = useMemo(() => new Map(blocks.map((block, at) => [block.id, { ...block, at }])), [blocks]);
  const shown = useMemo(() => {
    const order = ({ block }: Talk) =>
      block === null ? -1 : (known.get(block)?.at ?? Number.POSITIVE_INFINITY);
    return talks.filter(({ resolved }) => all || !resolved).sort((one, other) => order(one) - order(other));
  }, [talks, all, known]);
  const pins = useMemo(() => {
    const by = new Map<string, Talk[]>();
    for (const talk of shown)
      if (talk.block !== null && known.has(talk.block))
        by.set(talk.block, [...(by.get(talk.block) ?? []), talk]);
    return [...by].map(([block, those], at): Pin => ({ block, number: at + 1, talks: those }));
  }, [shown, known]);
  const numbers = new Map(pins.map(({ block, number }) => [block, number]));
  const open = talks.filter(({ resolved }) => !resolved).length;
  const inbox = INBOXES.find(({ name }) => name === seen.as);
  const reader = editions.find(({ number }) => number === seen.edition)?.reader ?? null;

  const mean = (next: Place) => {
    setMeant(next);
    setCurrent(null);
    setSheet(true);
  };
  const show = (talk: Talk) => {
    // As it was looked at when it was said: other readers may not get the block.
    const own = editions.find((one) => one.reader === talk.reader);
    if (own && own.number !== seen.edition) onSeen({ ...seen, edition: own.number });
    setCurrent(talk.id);
    setMeant(null);
    if (onPhone()) setSheet(false);
  };
  const talked = talks.find(({ id }) => id === current) ?? null;
  const where = ({ block }: Place): string => {
    if (block === null) return "The email as a whole";
    const it = known.get(block);
    return it ? place(it) : "A block that is not there any more";
  };
  return (
    <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_340px] max-md:grid-cols-1 max-md:overflow-y-auto">
      <div className="min-h-0 overflow-auto p-4 max-md:overflow-visible max-md:p-2 max-md:pb-24">
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <Choose
            label="Edition"
            className="w-64! max-md:w-full!"
            value={String(seen.edition)}
            onChange={(next) => onSeen({ ...seen, edition: Number(next) })}
            placeholder="As somebody of whom nothing is known"
            options={editions.map(({ number, count: many, traits }) => ({
              value: String(number),
              label: `${number} of ${editions.length}, ${counted(many, "reader")}${traits.length > 0 ? `: ${traits.join(", ")}` : ""}`,
            }))}
          />
          <Choice<Device>
            label="Device"
            value={device}
            onChange={setDevice}
            options={DEVICES.map((value) => ({ value, label: WIDTHS[value].label }))}
          />
          <Choose
            label="Shown as"
            className="w-60! max-md:w-full!"
            value={seen.as ?? "sent"}
            onChange={(as) => onSeen({ ...seen, as: as === "sent" ? null : as })}
            options={[
              { value: "sent", label: "As it is sent" },
              ...INBOXES.map(({ name, label }) => ({ value: name, label: `${label} (simulation)` })),
              { value: "text", label: "Text only" },
            ]}
          />
        </div>
        {lines && (
          <div className="mx-auto mb-3 max-w-3xl card px-3 py-2 break-words">
            <p className="text-ink-soft">{lines.senderName || "(no name)"}</p>
            <p>
              <strong>{lines.subject || "(no subject)"}</strong>{" "}
              <span className="text-ink-soft">{lines.preheader}</span>
            </p>
            {lines.subject !== "" && (
              <Button
                kind="quiet"
                className="-ml-3"
                onClick={() => mean({ block: null, quote: { exact: lines.subject, before: "" } })}
              >
                Comment on the subject
              </Button>
            )}
          </div>
        )}
        <ReviewFrame
          src={src}
          title={`Edition ${seen.edition}, ${WIDTHS[device].label.toLowerCase()}`}
          width={WIDTHS[device].width}
          dark={inbox?.dark ?? false}
          pins={pins}
          meant={meant ?? talked}
          changed={changed}
          onMean={mean}
          onPin={({ talks: [first] }) => {
            show(first);
            setSheet(true);
          }}
        />
      </div>
      <section
        aria-label="Comments"
        className={`relative min-h-0 space-y-3 overflow-y-auto border-l bg-table p-4 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:max-h-[75vh] max-md:rounded-t-xl max-md:border-t max-md:border-l-0 max-md:shadow-2xl ${sheet ? "" : "max-md:hidden"}`}
      >
        <div className="-mb-1 flex items-center md:hidden">
          <span className="mr-auto font-semibold">Comments</span>
          <IconButton icon={X} label="Back to the email" onClick={() => setSheet(false)} />
        </div>
        {children}
        {problem && <Problem>{problem}</Problem>}
        {meant ? (
          <div className="space-y-2 rounded-lg border border-mulberry bg-paper p-3">
            <p className="truncate font-medium">{where(meant)}</p>
            {meant.quote && (
              <blockquote className="line-clamp-3 border-l-2 border-amber pl-2 break-words text-ink-soft">
                {meant.quote.exact}
              </blockquote>
            )}
            <SayForm
              key={JSON.stringify(meant)}
              label="Your comment"
              button="Comment"
              save={(words) => begin(meant, words, reader)}
              onDone={() => setMeant(null)}
              onLeave={() => setMeant(null)}
            />
          </div>
        ) : (
          <>
            <p className="text-ink-soft">
              Press a part of the email, or mark words in it, to say something of it.
            </p>
            <Choose
              label="Or choose what to comment on"
              className="w-full!"
              value=""
              placeholder="Or choose what to comment on"
              onChange={(id) => mean(id === "whole" ? WHOLE : { block: id, quote: null })}
              options={[
                { value: "whole", label: "The email as a whole" },
                ...blocks.map((block) => ({ value: block.id, label: place(block) })),
              ]}
            />
          </>
        )}
        <div className="flex items-center gap-2 pt-1">
          <h2 className="mr-auto text-[15px] font-semibold">{counted(open, "open comment")}</h2>
          {talks.length > open && (
            <Button kind="quiet" aria-pressed={all} onClick={() => setAll(!all)}>
              {all ? "Hide" : "Show"} {count(talks.length - open)} resolved
            </Button>
          )}
        </div>
        {shown.map((talk) => (
          <TalkCard
            key={talk.id}
            talk={talk}
            where={where(talk)}
            number={numbers.get(talk.block ?? "")}
            current={talk.id === current}
            onShow={() => show(talk)}
          />
        ))}
      </section>
      {!sheet && (
        <div className="fixed inset-x-0 bottom-0 z-10 flex justify-center border-t bg-paper p-2 md:hidden">
          <Button kind="primary" onClick={() => setSheet(true)}>
            <MessageSquare className="size-4" aria-hidden /> Comments and verdict ({count(open)} open)
          </Button>
        </div>
      )}
    </div>
  );
}
