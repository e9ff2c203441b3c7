import { CircleAlert, Plus } from "lucide-react";
import { useState } from "react";
import { useRevalidator, useSearchParams } from "react-router";
import { SOURCE_KINDS } from "~/core/items";
import { codeStock } from "~/server/sources/codes";
import { sources } from "~/server/sources/sources";
import { AddSource } from "../sources/add-source";
import { NewBatch, OneBatch, stockWords } from "../sources/codes";
import { KIND_ICONS } from "../sources/kind-icon";
import { OneSource } from "../sources/one-source";
import { Button } from "../ui/button";
import { Empty, Page } from "../ui/page";
import { counted } from "../ui/time";
import type { Route } from "./+types/sources";

export async function loader({ context }: Route.LoaderArgs) {
  const { septima } = context;
  return { now: septima.now(), sources: await sources(septima), codes: await codeStock(septima) };
}

export default function Sources({ loaderData: { sources: all, codes, now } }: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const batch = codes.find(({ key }) => key === params.get("codes"));
  const chosen = all.find((source) => source.id === params.get("source")) ?? all[0];
  const [making, setMaking] = useState(false);
  const { revalidate } = useRevalidator();
  return (
    <Page title="Sources" about="Where live content comes from">
      <div className="grid grid-cols-[300px_minmax(0,1fr)] items-start gap-5 max-lg:grid-cols-1">
        <div className="space-y-4">
          <ul className="card divide-y" aria-label="Sources">
            {all.length === 0 && (
              <li className="p-3 text-ink-soft">
                None yet. Add the address of a feed, a catalogue or a calendar below.
              </li>
            )}
            {all.map((source) => {
              const Icon = KIND_ICONS[source.kind];
              return (
                <li key={source.id}>
                  <button
                    type="button"
                    aria-current={!batch && source === chosen}
                    onClick={() => setParams({ source: source.id }, { replace: true })}
                    className="flex w-full items-start gap-2.5 px-3 py-2 text-left hover:bg-black/3 aria-[current=true]:bg-[#f3f2f5]"
                  >
                    <Icon className="mt-0.5 size-4 shrink-0 text-ink-soft" aria-hidden />
                    <span className="min-w-0 grow">
                      <span className="flex items-center gap-1.5 font-semibold">
                        <span className="truncate">{source.name}</span>
                        {source.failure && (
                          <CircleAlert className="size-4 shrink-0 text-red" aria-label="Failed" />
                        )}
                      </span>
                      <span className="text-ink-soft">
                        {counted(source.held, SOURCE_KINDS[source.kind].item)}
                      </span>
                    </span>
                  </button>
                </li>
              );
            })}
          </ul>
          <AddSource
            primary={!batch}
            onAdded={(source) => {
              setParams({ source }, { replace: true });
              void revalidate();
            }}
          />
          <div className="flex items-center justify-between pt-2">
            <h2 className="text-[15px] font-semibold">Codes</h2>
            <Button onClick={() => setMaking(true)}>
              <Plus className="size-4" aria-hidden /> Batch
            </Button>
          </div>
          <ul className="card divide-y" aria-label="Codes">
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
          <OneSource key={chosen.id} source={chosen} now={now} onChange={() => void revalidate()} />
        ) : (
          <Empty title="What they hold will be here">
            Articles, products, appointments, records: each source with what it holds now.
          </Empty>
        )}
      </div>
    </Page>
  );
}
