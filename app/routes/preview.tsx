import { ChevronLeft, ChevronRight, UserSearch } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigation, useSearchParams } from "react-router";
import { INBOXES, type InboxName } from "~/core/inboxes";
import { previewOf, type StandIn } from "~/server/campaigns/previews";
import { framed } from "../framed";
import { inboxAsked } from "../inbox-asked";
import { InboxLines } from "../preview/inbox-lines";
import { Stage, WIDTHS, type WidthName } from "../preview/stage";
import { TakeAway } from "../preview/take-away";
import { WhoSeesWhat } from "../preview/who-sees-what";
import { ReaderPicker } from "../readers/reader-picker";
import { IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Choice, Problem } from "../ui/form";
import { Switch } from "../ui/switch";
import { count, kilobytes } from "../ui/time";
import type { Route } from "./+types/preview";

/** How large letters may be, in percent. */
const LETTERS = ["100", "150", "200"] as const;
type Letters = (typeof LETTERS)[number];

/** Readers who are not chosen by name, as they are called. */
const WHO: Record<StandIn, string> = {
  random: "Somebody at random",
  rarest: "The rarest edition",
  longest: "The longest name",
  nobody: "Nobody’s data",
};
const STAND_INS = Object.keys(WHO) as StandIn[];
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const asked = new URL(request.url).searchParams;
  const who = asked.get("reader") ?? "";
  const reader = STAND_INS.find((one) => one === who) ?? (Number(who) || null);
  const inbox = inboxAsked(asked);
  const letters = LETTERS.find((one) => one === asked.get("letters")) ?? "100";
  const look = await previewOf(context.septima, params.campaign, {
    reader,
    inbox,
    letters: Number(letters) / 100,
  });
  const inboxes = INBOXES.map(({ name, label, dark }) => ({ name, label, dark }));
  return { ...look, html: framed(look.html, look.policy), inbox: inbox ?? null, inboxes, letters };
}

/** What stands beside the email. */
type Beside = "inbox" | "seen";
type Form = "sent" | InboxName | "text";

export default function Preview({ loaderData, params: { campaign } }: Route.ComponentProps) {
  const { html, contact, editions, bytes, inbox, inboxes, letters, trouble, text } = loaderData;
  const [params, setParams] = useSearchParams();
  const [bare, setBare] = useState(false);
  const [beside, setBeside] = useState<Beside>("inbox");
  const [width, setWidth] = useState<WidthName>("all");
  const busy = useNavigation().state !== "idle";
  const textOnly = params.get("as") === "text" || html === "";
  const form: Form = textOnly ? "text" : (inbox ?? "sent");
  // What was chosen a moment ago counts too, while it is still on its way.
  const latest = useRef(params);
  useEffect(() => {
    latest.current = params;
  }, [params]);
  const set = (changes: Record<string, string | null>) => {
    const next = new URLSearchParams(latest.current);
    for (const [key, value] of Object.entries(changes))
      if (value === null) next.delete(key);
      else next.set(key, value);
    latest.current = next;
    setParams(next, { replace: true, preventScrollReset: true });
  };
  const at = editions.findIndex(({ sample }) => sample === contact?.id);
  const step = (by: number) => {
    const next = editions[(Math.max(0, at) + by + editions.length) % editions.length];
    if (next) set({ reader: String(next.sample) });
  };
  const dark = inboxes.find(({ name }) => name === inbox)?.dark ?? false;
  return (
    <main className="flex h-full flex-col">
      <title>Preview · Septima</title>
      <h1 className="sr-only">Preview</h1>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b bg-paper px-4 py-2">
        <ReaderPicker contact={contact} />
        <Choose<StandIn | "">
          label="Or as"
          className="w-44!"
          value={STAND_INS.find((one) => one === params.get("reader")) ?? ""}
          placeholder="Or somebody else"
          onChange={(reader) => set({ reader })}
          options={STAND_INS.map((value) => ({ value, label: WHO[value] }))}
        />
        {params.get("reader") === "random" && (
          <Link className="flex items-center gap-1 text-teal underline" to={`?${params}`} replace>
            <UserSearch className="size-4" aria-hidden /> Another
          </Link>
        )}
        <span className="flex items-center">
          <IconButton
            icon={ChevronLeft}
            label="Edition before"
            disabled={editions.length < 2}
            onClick={() => step(-1)}
          />
          <Choose
            label="Edition"
            className="w-52!"
            value={at < 0 ? "" : String(contact?.id)}
            placeholder="of this reader"
            onChange={(reader) => set({ reader })}
            options={editions.map((edition, index) => ({
              value: String(edition.sample),
              label: `${index + 1} of ${editions.length}, ${count(edition.count)} readers`,
            }))}
          />
          <IconButton
            icon={ChevronRight}
            label="Edition after"
            disabled={editions.length < 2}
            onClick={() => step(1)}
          />
        </span>
        <span
          className={`ml-auto ${bytes > 102 * 1024 ? "font-semibold text-red" : "text-ink-soft"}`}
          aria-live="polite"
        >
          {busy ? "Looking…" : kilobytes(bytes)}
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b bg-paper px-4 py-2">
        <Choice
          label="Width"
          value={width}
          onChange={setWidth}
          options={(Object.keys(WIDTHS) as WidthName[]).map((value) => ({
            value,
            label: WIDTHS[value].label,
          }))}
        />
        <Choose<Form>
          label="Shown as"
          className="w-64!"
          value={form}
          onChange={(as) => set({ as: as === "sent" ? null : as })}
          options={[
            { value: "sent", label: "As it is sent" },
            ...inboxes.map(({ name, label }) => ({ value: name as Form, label: `${label} (simulation)` })),
            { value: "text", label: "Text only" },
          ]}
        />
        <Choose<Letters>
          label="Letters"
          className="w-36!"
          value={letters}
          onChange={(next) => set({ letters: next === "100" ? null : next })}
          options={LETTERS.map((value) => ({ value, label: `Letters ${value} %` }))}
        />
        <div className="ml-auto">
          <TakeAway
            campaign={campaign}
            view={{
              ...(contact && { reader: String(contact.id) }),
              ...(inbox && { as: inbox }),
              width: String(width === "all" || width === "free" ? WIDTHS.desktop.width : WIDTHS[width].width),
            }}
          />
        </div>
      </div>
      {trouble && (
        <div className="px-5 pt-4">
          <Problem mild>{trouble}</Problem>
        </div>
      )}
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_354px] max-lg:grid-cols-1 max-lg:overflow-y-auto">
        <div className="min-h-0 overflow-auto p-5">
          {textOnly ? (
            <pre className="card max-w-3xl p-5 font-mono text-xs/5 break-words whitespace-pre-wrap">
              {text}
            </pre>
          ) : (
            <Stage html={html} width={width} dark={dark} />
          )}
          <InboxLines {...loaderData} bare={bare} device="desktop" />
        </div>
        <div className="relative overflow-y-auto border-l bg-paper p-4 max-lg:border-t max-lg:border-l-0">
          <div className="mb-4">
            <Choice<Beside>
              label="Beside the email"
              value={beside}
              onChange={setBeside}
              options={[
                { value: "inbox", label: "In the inbox" },
                { value: "seen", label: "Who sees what" },
              ]}
            />
          </div>
          {beside === "seen" ? (
            <WhoSeesWhat campaign={campaign} reader={contact?.id ?? null} name={loaderData.name} />
          ) : (
            <>
              <InboxLines {...loaderData} bare={bare} device="phone" />
              {loaderData.preheader !== "" && (
                <Switch checked={bare} onChange={setBare}>
                  Without the preheader
                </Switch>
              )}
            </>
          )}
        </div>
      </div>
    </main>
  );
}
