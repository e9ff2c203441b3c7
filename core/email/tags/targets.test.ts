/** Links that lead to an item as what it is: they are read back as they were written, and follow the item. */
import fc from "fast-check";
import { expect, test } from "vitest";
import { itemOf } from "../../items";
import { calendarEntry } from "../calendar";
import {
  constantOf,
  type ItemTarget,
  itemsNamed,
  itemTag,
  itemTagOf,
  type Known,
  readTyped,
  targetsOf,
} from ".";

const DINNER = itemOf({
  id: "dinner|{1}\\",
  title: "Dinner",
  link: "https://shop.example/dinner",
  date: "2026-05-01T17:00:00.000Z",
  until: "2026-05-01T19:00:00.000Z",
  facts: { check_in: "https://shop.example/in?a=1&b={$x}", seats: 20, note: "see https://x.example" },
});
const known = (over: Partial<Known> = {}): Known => ({
  brand: { name: "B", address: "A" },
  origin: "https://letters.example",
  items: [{ source: "s1", item: DINNER }],
  ...over,
});
const leadsTo = (href: string, about: Known) => {
  const tag = itemTagOf(href);
  return tag && constantOf(tag, about);
};

test("of an item its page, the addresses among its facts, and its entry for a calendar can be led to", () => {
  expect(targetsOf(DINNER)).toEqual(["link", "fact.check_in", "calendar"]);
  expect(targetsOf(itemOf({ id: "x" }))).toEqual([]);
  expect(leadsTo(itemTag("s1", DINNER, "link"), known())).toBe(DINNER.link);
  expect(leadsTo(itemTag("s1", DINNER, "fact.check_in"), known())).toBe(DINNER.facts.check_in);
  const file = new URL(leadsTo(itemTag("s1", DINNER, "calendar"), known()) ?? "");
  expect(file.origin).toBe("https://letters.example");
  expect(calendarEntry(file.searchParams)).toMatchObject({
    title: "Dinner",
    start: Date.UTC(2026, 4, 1, 17),
  });
});

test("a link follows its item, and where the item is gone leads to where it was", () => {
  const href = itemTag("s1", DINNER, "link");
  const moved = { source: "s1", item: { ...DINNER, link: "https://shop.example/moved" } };
  expect(leadsTo(href, known({ items: [moved] }))).toBe("https://shop.example/moved");
  expect(leadsTo(href, known({ items: [{ ...moved, source: "s2" }] }))).toBe(DINNER.link);
  expect(leadsTo(itemTag("s1", DINNER, "calendar"), known({ items: [] }))).toBeUndefined();
});

test("whatever an item is called, the tag that leads to it is read back, and found in what holds it", () => {
  const name = fc.string({ minLength: 1, maxLength: 40, unit: "grapheme" });
  fc.assert(
    fc.property(
      name,
      name,
      fc.constantFrom<ItemTarget>("link", "calendar", "fact.a"),
      (source, id, target) => {
        const href = itemTag(source, itemOf({ id, link: "https://x.example/{a}|b" }), target);
        expect(readTyped(href).mistakes).toEqual([]);
        expect(itemTagOf(` ${href} `)).toMatchObject({ field: `item.${target}`, of: { source, item: id } });
        expect(itemsNamed({ blocks: [{ href }, { words: ["a", href] }] })).toEqual([[source, id]]);
      },
    ),
  );
});

test("a tag of an item that names none is a mistake", () => {
  expect(readTyped("{$item.link}").mistakes[0].text).toContain("names no item");
  expect(readTyped("{$first_name source=|a| id=|b|}").mistakes[0].text).toContain("has no option “source”");
});
