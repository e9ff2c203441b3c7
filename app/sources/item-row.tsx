import clsx from "clsx";
import { useState } from "react";
import { costs, type FactValue, type Item, type ItemFact, isSoldOut, saving } from "~/core/items";
import { dateWords, numberFormat, sumWords as sumIn } from "~/core/program";
import type { FoundItem } from "~/server/sources/items";
import { count, timeWords } from "../ui/time";

/** A sum as the interface writes it. */
export const sumWords = (sum: number, currency?: string) => sumIn("en-GB", sum, currency);

/** What an item costs and whether there is any, in a line; empty where nobody says. */
export function priceWords(item: Item): string {
  const sum = costs(item);
  return [sum === null ? "" : sumWords(sum, item.currency), isSoldOut(item) ? "sold out" : ""]
    .filter(Boolean)
    .join(", ");
}

/** When something takes place, in the hours of its own place. */
export function whenWords({ date, until, zone }: Item, now: number): string {
  if (date === null) return "no date";
  if (date.length === 10) return dateWords("en-GB", { dateStyle: "medium", timeZone: "UTC" }, new Date(date));
  if (until === undefined) return timeWords(date, now);
  const timeZone = zone ?? "UTC";
  return `${dateWords("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", timeZone }, new Date(date))} to ${dateWords("en-GB", { hour: "2-digit", minute: "2-digit", timeZone }, new Date(until))}`;
}

/** What tells an item from others that are called the same, in a line: when it takes place, or what it costs. */
export const asideWords = (item: Item): string =>
  item.until === undefined ? priceWords(item) : whenWords(item, 0);

/** What was last seen to change, in words. */
function changeWords({ what, was }: NonNullable<FoundItem["changed"]>, item: Item): string {
  switch (what) {
    case "new":
      return "new";
    case "gone":
      return "gone";
    case "back":
      return "back";
    case "price": {
      const { price, sale, currency } = Object(was) as Pick<Item, "price" | "sale" | "currency">;
      const before = sale ?? price;
      return before === undefined ? "has a price now" : `was ${sumWords(before, currency ?? item.currency)}`;
    }
    case "stock":
      return was === null ? "stock is told now" : `${count(Number(was))} before`;
  }
}

function valueWords(value: FactValue): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return numberFormat("en-GB").format(value);
  return Array.isArray(value) ? value.join(", ") : value;
}

/** The picture of an item, or that it has none. */
export function ItemPicture({ item, className }: { item: Item; className: string }) {
  const [broken, setBroken] = useState(false);
  return item.picture && !broken ? (
    <img
      src={item.picture}
      alt=""
      loading="lazy"
      onError={() => setBroken(true)}
      className={clsx("shrink-0 rounded-sm border bg-white object-cover", className)}
    />
  ) : (
    <span
      className={clsx(
        "grid shrink-0 place-items-center rounded-sm border border-dashed text-[10px] text-ink-soft",
        className,
      )}
    >
      {broken ? "away" : "none"}
    </span>
  );
}

/** One item of a source: what it is, what it costs, how many there are, and what its further facts say. */
export function ItemRow({
  found,
  facts,
  now,
}: {
  found: FoundItem;
  facts: readonly ItemFact[];
  now: number;
}) {
  const { item, changed, gone } = found;
  const sum = costs(item);
  const about = [item.category.join(" › "), item.place, ...item.tags.slice(0, 3)].filter(Boolean).join(" · ");
  const said = facts.flatMap(({ key, label }) =>
    item.facts[key] === undefined ? [] : [`${label}: ${valueWords(item.facts[key])}`],
  );
  return (
    <li className={clsx("flex gap-3 px-4 py-2.5", gone && "text-ink-soft")}>
      <ItemPicture item={item} className="h-11 w-15" />
      <div className="min-w-0 grow">
        <p className={clsx("truncate font-semibold", gone && "line-through")} title={item.title}>
          {item.title}
        </p>
        <p className="truncate text-ink-soft" title={item.text}>
          {item.text || about || "no text"}
        </p>
        {(said.length > 0 || (item.text !== "" && about !== "")) && (
          <p className="truncate text-xs text-ink-soft" title={said.join("\n")}>
            {[item.text !== "" ? about : "", ...said].filter(Boolean).join(" · ")}
          </p>
        )}
      </div>
      <div className="ml-auto shrink-0 text-right whitespace-nowrap">
        {sum !== null && (
          <p className="font-semibold">
            {saving(item) > 0 && (
              <s className="mr-1.5 font-normal text-ink-soft">{sumWords(item.price ?? 0, item.currency)}</s>
            )}
            {sumWords(sum, item.currency)}
          </p>
        )}
        {item.stock !== undefined && (
          <p className={isSoldOut(item) ? "text-red" : "text-ink-soft"}>
            {isSoldOut(item) ? "sold out" : `${count(item.stock)} left`}
          </p>
        )}
        {(item.date !== null || sum === null) && <p className="text-ink-soft">{whenWords(item, now)}</p>}
        {changed && (
          <p className="text-xs text-amber">
            {changeWords(changed, item)} <span className="text-ink-soft">{timeWords(changed.at, now)}</span>
          </p>
        )}
      </div>
    </li>
  );
}
