import { RefreshCw, Trash2 } from "lucide-react";
import { useState } from "react";
import {
  Link,
  Outlet,
  useFetcher,
  useLocation,
  useParams,
  useRevalidator,
  useSearchParams,
} from "react-router";
import { z } from "zod";
import { LifeSchema, MannersSchema } from "~/core/sending";
import { relaySetting } from "~/server/mail/chosen-relay";
import {
  emptyPostroom,
  letLive,
  mailboxManners,
  readersLiving,
  searchMail,
  teachManners,
} from "~/server/mail/read";
import { jsonInput } from "../input";
import { LivingReaders } from "../postroom/living";
import { Manners } from "../postroom/manners";
import { orProblem } from "../refusal";
import { Button, IconButton } from "../ui/button";
import { SearchInput } from "../ui/form";
import { Empty, Page } from "../ui/page";
import { count, counted, timeWords } from "../ui/time";
import type { Route } from "./+types/postroom";

const PAGE = 60;

export async function loader({ context, request }: Route.LoaderArgs) {
  const url = new URL(request.url);
  const query = url.searchParams.get("q") ?? "";
  const from = Math.max(0, Number(url.searchParams.get("from")) || 0);
  const found = await searchMail(context.septima, { text: query, offset: from, limit: PAGE });
  const { septima } = context;
  return {
    now: septima.now(),
    query,
    from,
    found,
    manners: await mailboxManners(septima),
    living: await readersLiving(septima),
    relay: await relaySetting(septima),
  };
}

const Body = z.union([
  z.object({ intent: z.literal("empty") }),
  z.object({ intent: z.literal("behave"), manners: MannersSchema }),
  z.object({ intent: z.literal("live"), life: LifeSchema.nullable() }),
]);

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "empty") await emptyPostroom(septima);
    else if (body.intent === "live") await letLive(septima, body.life);
    else await teachManners(septima, body.manners);
    return true;
  });
}

export default function Postroom({ loaderData }: Route.ComponentProps) {
  const { found, query, from, now, manners, living, relay } = loaderData;
  const [dialog, setDialog] = useState<"manners" | "readers" | null>(null);
  const close = () => setDialog(null);
  const { message } = useParams();
  const { search } = useLocation();
  const [, setParams] = useSearchParams();
  const { revalidate, state } = useRevalidator();
  const emptying = useFetcher();
  if (!found || !living) {
    return (
      <Page title="Postroom">
        <Empty title="There is no postroom here">
          It stands in for the mail system where one process does everything and no relay is set when it
          starts.
        </Empty>
      </Page>
    );
  }
  const { total, messages } = found;
  return (
    <main className="flex h-screen flex-col">
      <title>Postroom · Septima</title>
      <header className="flex flex-wrap items-center gap-3 px-5 py-3">
        <h1 className="text-[22px]/7 font-semibold">Postroom</h1>
        <p className="text-ink-soft">
          {query ? `${counted(total, "message")} found` : counted(total, "message")} in the simulated
          mailboxes
          {relay.by === "settings" && `. New mail goes to ${relay.address}`}
        </p>
        <div className="ml-auto flex flex-wrap gap-2">
          <Button onClick={() => setDialog("readers")}>{living.life ? "Readers live…" : "Readers…"}</Button>
          <LivingReaders living={living} open={dialog === "readers"} onClose={close} />
          <Button onClick={() => setDialog("manners")}>
            How mailboxes behave{manners.length > 0 && ` (${manners.length})`}…
          </Button>
          <Manners manners={manners} open={dialog === "manners"} onClose={close} />
          <Button onClick={revalidate} disabled={state !== "idle"}>
            <RefreshCw className="size-4" aria-hidden /> Look again
          </Button>
          <IconButton
            icon={Trash2}
            label="Empty the postroom"
            disabled={total === 0}
            onClick={() =>
              emptying.submit(JSON.stringify({ intent: "empty" }), {
                method: "post",
                action: "/postroom",
                encType: "application/json",
              })
            }
          />
        </div>
      </header>
      <div className="grid min-h-0 grow grid-cols-[320px_minmax(0,1fr)] border-t max-sm:grid-cols-1 max-sm:overflow-y-auto">
        <section aria-label="Messages" className="flex min-h-0 flex-col border-r bg-paper">
          <div className="border-b p-2">
            <SearchInput
              aria-label="Search by address or subject"
              placeholder="Address or subject"
              defaultValue={query}
              onChange={(event) =>
                setParams(event.target.value ? { q: event.target.value } : {}, { replace: true })
              }
            />
          </div>
          <ul className="min-h-0 grow divide-y overflow-y-auto">
            {messages.map((one) => (
              <li key={one.id}>
                <Link
                  to={`/postroom/${one.id}${search}`}
                  aria-current={one.id === message}
                  className="block px-3 py-2 hover:bg-black/3 aria-[current=true]:bg-[#f1eff3]"
                >
                  <span className="flex justify-between gap-2">
                    <span className="truncate font-semibold">{one.to}</span>
                    <span className="shrink-0 text-xs text-ink-soft">
                      {timeWords(new Date(one.at).toISOString(), now)}
                    </span>
                  </span>
                  <span className="block truncate text-ink-soft">{one.subject || "(no subject)"}</span>
                </Link>
              </li>
            ))}
            {messages.length === 0 && (
              <li className="p-6 text-center text-ink-soft">
                {query
                  ? `Nothing for “${query}”.`
                  : "Nothing has arrived yet. Send a proof or a campaign: each message comes here."}
              </li>
            )}
          </ul>
          {total > PAGE && (
            <div className="flex items-center justify-between border-t p-2 text-ink-soft">
              <Button
                disabled={from === 0}
                onClick={() => setParams({ q: query, from: String(from - PAGE) })}
              >
                Newer
              </Button>
              {count(from + 1)}–{count(Math.min(total, from + PAGE))}
              <Button
                disabled={from + PAGE >= total}
                onClick={() => setParams({ q: query, from: String(from + PAGE) })}
              >
                Older
              </Button>
            </div>
          )}
        </section>
        <div className="min-h-0 overflow-y-auto">
          <Outlet />
          {!message && <p className="p-10 text-center text-ink-soft">Choose a message to read it.</p>}
        </div>
      </div>
    </main>
  );
}
