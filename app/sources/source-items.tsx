import { useState } from "react";
import { type ItemFact, SOURCE_KINDS } from "~/core/items";
import type { Source } from "~/server/sources/sources";
import type { Change } from "~/server/sources/store";
import { ask } from "../requests";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Problem, SearchInput } from "../ui/form";
import { Switch } from "../ui/switch";
import { counted, timeWords } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import { ItemRow } from "./item-row";
import { ITEM_ORDERS, type ItemOrder } from "./orders";

const PAGE = 40;
const MOST = 100;
const EVERY = " every";

const CHANGES = [
  { what: "new", words: "new" },
  { what: "gone", words: "gone" },
  { what: "back", words: "back" },
  { what: "price", words: "with another price" },
  { what: "stock", words: "with another stock" },
] as const satisfies readonly { what: Change; words: string }[];

/** What a source holds: sought, narrowed and put in order, with what was last seen to change. */
export function SourceItems({
  source,
  facts,
  now,
}: {
  source: Source;
  facts: readonly ItemFact[];
  now: number;
}) {
  const [words, setWords] = useState("");
  const [category, setCategory] = useState("");
  const [inStock, setInStock] = useState(false);
  const [changed, setChanged] = useState<Change | null>(null);
  const [order, setOrder] = useState<ItemOrder>(ITEM_ORDERS[source.kind][0].value);
  const [most, setMost] = useState(PAGE);
  const query = {
    source: source.id,
    words: words.trim() || undefined,
    category: category || undefined,
    inStock: inStock ? "yes" : undefined,
    changed: changed ?? undefined,
    order: words.trim() && order === ITEM_ORDERS[source.kind][0].value ? "best" : order,
    limit: most,
  };
  const { last, problem, waiting } = useAnswer(
    JSON.stringify([query, source.refreshedAt, source.changedAt]),
    (signal) => ask("/sources/items", { query, signal }),
    words === "" ? 0 : 120,
  );
  const one = SOURCE_KINDS[source.kind].item;
  const narrowed = query.words !== undefined || category !== "" || inStock || changed !== null;
  return (
    <section aria-label="What it holds">
      <div className="flex flex-wrap items-center gap-2 border-b p-3">
        <SearchInput
          className="min-w-40 grow"
          aria-label={`Search ${source.name}`}
          placeholder={`Search ${counted(source.held, one)}`}
          value={words}
          onChange={(event) => {
            setWords(event.target.value);
            setMost(PAGE);
          }}
        />
        {(last?.categories.length ?? 0) > 1 && (
          <Choose
            label="Category"
            className="w-44!"
            value={category || EVERY}
            options={[
              { value: EVERY, label: "Every category" },
              ...(last?.categories ?? []).map(({ name, count }) => ({
                value: name,
                label: name,
                aside: count.toLocaleString("en"),
              })),
            ]}
            onChange={(value) => setCategory(value === EVERY ? "" : value)}
          />
        )}
        <Choose
          label="Order"
          className="w-44!"
          value={order}
          options={ITEM_ORDERS[source.kind]}
          onChange={(value) => setOrder(value as ItemOrder)}
        />
        {source.kind === "catalogue" && (
          <Switch checked={inStock} onChange={setInStock}>
            In stock
          </Switch>
        )}
      </div>
      {source.changes && source.changedAt && (
        <div className="flex flex-wrap items-center gap-2 border-b px-4 py-2">
          <span className="text-ink-soft">Changed {timeWords(source.changedAt, now)}:</span>
          {CHANGES.filter(({ what }) => (source.changes?.[what] ?? 0) > 0).map(({ what, words }) => (
            <Button
              key={what}
              kind={changed === what ? "primary" : "plain"}
              aria-pressed={changed === what}
              onClick={() => setChanged(changed === what ? null : what)}
            >
              {source.changes?.[what].toLocaleString("en")} {words}
            </Button>
          ))}
        </div>
      )}
      {problem && (
        <div className="p-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      {last && last.items.length === 0 && !waiting && (
        <p className="px-4 py-8 text-center text-ink-soft">
          {narrowed ? `No ${one} is like that.` : `There is no ${one} in it just now.`}
        </p>
      )}
      <ul className="divide-y" aria-busy={waiting}>
        {last?.items.map((found) => (
          <ItemRow key={found.item.id} found={found} facts={facts} now={now} />
        ))}
      </ul>
      {last && last.items.length > 0 && (
        <footer
          className="flex flex-wrap items-center gap-3 border-t px-4 py-2.5 text-ink-soft"
          aria-live="polite"
        >
          {last.items.length < last.total
            ? `${last.items.length.toLocaleString("en")} of ${last.total >= 1000 && !narrowed ? source.held.toLocaleString("en") : last.total >= 1000 ? "1,000 and more" : last.total.toLocaleString("en")}`
            : counted(last.total, one)}
          {last.items.length < last.total &&
            (most < MOST ? (
              <Button onClick={() => setMost(MOST)}>Show more</Button>
            ) : (
              <span>Search to see others.</span>
            ))}
        </footer>
      )}
    </section>
  );
}
