import { CircleAlert, CircleCheck, Plus, RefreshCw, TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { useFetcher, useNavigation, useRevalidator, useSearchParams } from "react-router";
import { z } from "zod";
import { codeStock } from "~/server/sources/codes";
import { addFeed, moveSource, refreshSource, sources } from "~/server/sources/sources";
import { fieldsInput } from "../input";
import { orProblem } from "../refusal";
import { NewBatch, OneBatch, stockWords } from "../sources/codes";
import { Button } from "../ui/button";
import { Input, Labelled, Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { Empty, Page } from "../ui/page";
import { RemoveButton } from "../ui/remove-button";
import { counted, timeWords } from "../ui/time";
import type { Route } from "./+types/sources";

export async function loader({ context }: Route.LoaderArgs) {
  const { septima } = context;
  return { now: septima.now(), sources: await sources(septima), codes: await codeStock(septima) };
}

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("add"), address: z.string() }),
  z.object({ intent: z.literal("refresh"), id: z.string() }),
  z.object({ intent: z.literal("move"), id: z.string(), address: z.string() }),
  z.object({ intent: z.literal("publish") }),
]);

export async function action({ context, request }: Route.ActionArgs) {
  const { septima, publisher } = context;
  const body = await fieldsInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "add":
        return addFeed(septima, body.address);
      case "refresh":
        return refreshSource(septima, body.id);
      case "move":
        return moveSource(septima, body.id, body.address);
      case "publish":
        publisher.publish();
        return null;
    }
  });
}

export default function Sources({ loaderData: { sources: all, codes, now } }: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const adding = useFetcher<typeof action>();
  const batch = codes.find(({ key }) => key === params.get("codes"));
  const chosen = all.find((source) => source.id === params.get("source")) ?? all[0];
  const [making, setMaking] = useState(false);
  const { revalidate } = useRevalidator();
  return (
    <Page title="Sources" about="Where live content comes from">
      <div className="grid grid-cols-[300px_minmax(0,1fr)] items-start gap-5 max-lg:grid-cols-1">
        <div className="space-y-4">
          <h2 className="text-[15px] font-semibold">Feeds</h2>
          <ul className="card divide-y">
            {all.length === 0 && (
              <li className="p-3 text-ink-soft">None yet. Add the address of a feed below.</li>
            )}
            {all.map((source) => (
              <li key={source.id}>
                <button
                  type="button"
                  aria-current={!batch && source === chosen}
                  onClick={() => setParams({ source: source.id }, { replace: true })}
                  className="block w-full px-3 py-2 text-left hover:bg-black/3 aria-[current=true]:bg-[#f3f2f5]"
                >
                  <span className="flex items-center gap-1.5 font-semibold">
                    {source.name}
                    {source.failure && <CircleAlert className="size-4 text-red" aria-label="Failed" />}
                  </span>
                  <span className="text-ink-soft">{counted(source.articles.length, "article")}</span>
                </button>
              </li>
            ))}
          </ul>
          <adding.Form method="post" className="card space-y-3 p-3">
            <input type="hidden" name="intent" value="add" />
            <Labelled label="Add a feed" hint="RSS, Atom or JSON Feed">
              <Input name="address" placeholder="https://…" required />
            </Labelled>
            {adding.data?.problem && <Problem>{adding.data.problem}</Problem>}
            <Button type="submit" kind={batch ? "plain" : "primary"} disabled={adding.state !== "idle"}>
              {adding.state === "idle" ? "Add" : "Reading the feed…"}
            </Button>
          </adding.Form>
          <div className="flex items-center justify-between pt-2">
            <h2 className="text-[15px] font-semibold">Codes</h2>
            <Button onClick={() => setMaking(true)}>
              <Plus className="size-4" aria-hidden /> Batch
            </Button>
          </div>
          <ul className="card divide-y">
            {codes.length === 0 && (
              <li className="p-3 text-ink-soft">
                None yet. A batch of codes, one handed to each reader, from a file of your shop.
              </li>
            )}
            {codes.map((one) => (
              <li key={one.key}>
                <button
                  type="button"
                  aria-current={one === batch}
                  onClick={() => setParams({ codes: one.key }, { replace: true })}
                  className="block w-full px-3 py-2 text-left hover:bg-black/3 aria-[current=true]:bg-[#f3f2f5]"
                >
                  <span className="block truncate font-semibold">{one.name}</span>
                  <span className={one.free < one.low ? "text-amber" : "text-ink-soft"}>
                    {stockWords(one)}
                    {one.free < one.low && ": too few"}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </div>
        {making && (
          <NewBatch
            taken={codes.map(({ key }) => key)}
            onClose={(made) => {
              setMaking(false);
              if (made) setParams({ codes: made }, { replace: true });
              void revalidate();
            }}
          />
        )}
        {batch ? (
          <OneBatch
            key={[batch.key, batch.name, batch.example, batch.low, batch.ends].join(" ")}
            batch={batch}
            onChange={() => void revalidate()}
          />
        ) : chosen ? (
          <OneSource key={chosen.id} source={chosen} now={now} />
        ) : (
          <Empty title="Articles will be here">Each source with what it holds now.</Empty>
        )}
      </div>
    </Page>
  );
}

function OneSource({
  source,
  now,
}: {
  source: Route.ComponentProps["loaderData"]["sources"][number];
  now: number;
}) {
  const fetcher = useFetcher<typeof action>();
  const publishing = useFetcher<typeof action>();
  const navigation = useNavigation();
  const { revalidate } = useRevalidator();
  const notify = useNotify();
  useEffect(() => {
    if (publishing.data) notify({ text: "The publisher has a new article. Refresh to bring it in." });
  }, [publishing.data, notify]);
  const busy = fetcher.state !== "idle" || navigation.state !== "idle";
  const submit = (intent: string) => fetcher.submit({ intent, id: source.id }, { method: "post" });
  return (
    <section className="card" aria-label={source.name}>
      <header className="space-y-3 border-b p-4">
        <div className="flex flex-wrap items-center gap-2">
          <h2 className="grow text-[15px] font-semibold">{source.name}</h2>
          {source.address.startsWith("standin://publisher") && (
            <Button
              onClick={() => publishing.submit({ intent: "publish" }, { method: "post" })}
              disabled={publishing.state !== "idle"}
            >
              Publish an article
            </Button>
          )}
          <Button onClick={() => submit("refresh")} disabled={busy}>
            <RefreshCw className="size-4" aria-hidden /> {busy ? "Reading…" : "Refresh"}
          </Button>
          <RemoveButton
            kind="source"
            id={source.id}
            name={source.name}
            consequence="Live blocks that take from it show nothing, and stop a sending, until they get another source."
            onChange={() => void revalidate()}
          />
        </div>
        <fetcher.Form method="post" className="flex gap-2">
          <input type="hidden" name="intent" value="move" />
          <input type="hidden" name="id" value={source.id} />
          <Input
            name="address"
            aria-label="Address of the feed"
            defaultValue={source.address}
            className="font-mono text-xs"
          />
          <Button type="submit">Change address</Button>
        </fetcher.Form>
        {source.failure ? (
          <Problem>
            {source.failure}{" "}
            {source.refreshedAt && `The copy of ${timeWords(source.refreshedAt, now)} stays in use.`}
          </Problem>
        ) : (
          <p className="flex items-center gap-1.5 text-green">
            <CircleCheck className="size-4" aria-hidden /> Read{" "}
            {source.refreshedAt && timeWords(source.refreshedAt, now)}, again every ten minutes
          </p>
        )}
        {source.problems.map((problem) => (
          <p key={problem} className="flex items-center gap-1.5 text-amber">
            <TriangleAlert className="size-4" aria-hidden /> {problem}
          </p>
        ))}
      </header>
      <ul className="divide-y">
        {source.articles.map((article) => (
          <li key={article.id} className="flex gap-3 px-4 py-2.5">
            {article.picture ? (
              <img
                src={article.picture}
                alt=""
                loading="lazy"
                className="h-11 w-15 shrink-0 rounded-sm border object-cover"
              />
            ) : (
              <span className="grid h-11 w-15 shrink-0 place-items-center rounded-sm border border-dashed text-[10px] text-ink-soft">
                none
              </span>
            )}
            <div className="min-w-0">
              <p className="truncate font-semibold">{article.title}</p>
              <p className="truncate text-ink-soft">{article.excerpt || "no text"}</p>
            </div>
            <span className="ml-auto shrink-0 text-ink-soft">
              {article.published ? timeWords(article.published, now) : "no date"}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
