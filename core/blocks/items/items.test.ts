/** Placed items: what is said of them to readers, part by part, in every arrangement. */
import { describe, expect, test } from "vitest";
import { calendarEntry } from "../../email";
import { type Item, itemOf } from "../../items";
import { sampleContext } from "../../render/sample";
import { createBlock } from "../registry";
import type { ItemsBlock } from ".";
import { items } from ".";
import { ITEM_PARTS } from "./arranged";

const BEANS: Partial<Item> = {
  title: "Runner <beans>",
  text: "Climb to eight feet and crop until the first frost of the year, whatever the summer was like.",
  link: "https://shop.example/beans?a=1&b=2",
  picture: "https://shop.example/beans.png",
  size: { width: 600, height: 450 },
  price: 1299.5,
  sale: 999,
  currency: "EUR",
};
function block(
  placed: readonly (Partial<Item> & { own?: { title?: string; text?: string } })[],
  more: Partial<ItemsBlock> = {},
): ItemsBlock {
  return {
    ...createBlock("items", "b"),
    items: placed.map(({ own, ...item }, at) => ({
      id: String(at + 1),
      source: "shop",
      item: itemOf({ id: String(at), ...item }),
      ...own,
    })),
    ...more,
  } as ItemsBlock;
}
const written = (it: ItemsBlock, part: "html" | "text", more: Parameters<typeof sampleContext>[0] = {}) => {
  const context = sampleContext({ ...more, part });
  items[part](it, context);
  return context.out
    .finish()
    .map((one) => (one.op === "static" ? one.text : ""))
    .join("");
};
const words = (html: string) =>
  html
    .replace(/<[^>]*>|&nbsp;/g, " ")
    .replace(/\s+/g, " ")
    .trim();

describe("what is said of an item", () => {
  test("is its title, as much of its text as is wanted, what it costs and what it did, and where it leads", () => {
    const html = written(block([BEANS], { textLength: 40 }), "html");
    expect(words(html)).toBe(
      "Runner &lt;beans&gt; Climb to eight feet and crop until the… €999.00 was €1,299.50 Have a look",
    );
    expect(html).toContain('alt="" width=');
    expect(html).toMatch(/aria-label="Runner &lt;beans&gt;"/);
    expect([...html.matchAll(/href="([^"]*)"/g)].map(([, href]) => href)).toEqual(
      Array(3).fill("https://shop.example/beans?a=1&amp;b=2"),
    );
    expect(written(block([BEANS], { textLength: 40 }), "text")).toBe(
      "Runner <beans>\nClimb to eight feet and crop until the…\n€999.00, was €1,299.50\nhttps://shop.example/beans?a=1&b=2\n\n",
    );
  });

  test("is in the form of the email's language", () => {
    expect(words(written(block([BEANS]), "html", { language: "de" }))).toMatch(/999,00\s€ was 1\.299,50\s€/);
  });

  test("of one that is sold out is that, without a button; of one without a price nothing about it", () => {
    expect(words(written(block([{ ...BEANS, stock: 0 }], { off: ["text"] }), "html"))).toBe(
      "Runner &lt;beans&gt; €999.00 was €1,299.50 Sold out",
    );
    expect(words(written(block([{ title: "Peas" }]), "html"))).toBe("Peas");
    expect(written(block([{ title: "Peas" }]), "html")).not.toMatch(/<img|<a /);
    expect(written(block([{ title: "Peas" }]), "text")).toBe("Peas\n\n");
  });

  test("is what was typed over its own, until that is given back", () => {
    const own = { title: "Ours", text: "In our words" };
    expect(words(written(block([{ ...BEANS, own }]), "html"))).toMatch(/^Ours In our words/);
    expect(words(written(block([{ ...BEANS, own: {} }]), "html"))).toMatch(/^Runner/);
  });
});

describe("besides, an item says", () => {
  const EVENT: Partial<Item> = {
    title: "Sowing",
    date: "2026-12-07T10:00:00Z",
    until: "2026-12-07T12:00:00Z",
    zone: "Europe/Paris",
    place: "Marl Bay",
    facts: { places: 1200, dog: true, bring: ["gloves", "seed"] },
  };
  const parts = ITEM_PARTS.map(({ key }) => key);
  const only = (...shown: string[]) => parts.filter((key) => !shown.includes(key));

  test("when by the clock of its place, where, and its facts by their names; nothing where it has none", () => {
    const facts = [
      { id: "1", fact: "places", label: "Places" },
      { id: "2", fact: "dog", label: "Dogs" },
      { id: "3", fact: "bring", label: "" },
      { id: "4", fact: "stairs", label: "Stairs" },
    ];
    const all = block([EVENT], { off: only("date", "place", "facts"), facts });
    const said = "Monday, 7 December 2026 at 11:00 CET Marl Bay Places: 1,200 Dogs: yes gloves, seed";
    expect(words(written(all, "html")).replace("GMT+1", "CET")).toBe(said);
    expect(written(all, "text").replace(/\n+/g, " ").replace("GMT+1", "CET").trim()).toBe(said);
    expect(
      words(written(block([{ title: "X" }], { off: only("date", "place", "facts"), facts }), "html")),
    ).toBe("");
    // A day alone is a day wherever somebody is.
    const day = block([{ date: "2026-12-07" }], { off: only("date") });
    expect(words(written(day, "html"))).toBe("7 December 2026");
  });

  test("a fact and a price that were typed count before what its source says", () => {
    const it = block([{ ...EVENT, price: 9, sale: 4, currency: "GBP" }], {
      off: only("facts", "price"),
      facts: [
        { id: "1", fact: "places", label: "Places" },
        { id: "2", fact: "stairs", label: "Stairs" },
      ],
    });
    it.items[0] = { ...it.items[0], price: 7.5, own: { places: "few", stairs: "none" } };
    expect(words(written(it, "html"))).toBe("Places: few Stairs: none £7.50");
  });

  test("the first badge that holds of it, with the number in its words", () => {
    const badges = [
      { id: "1", by: "few", than: 5, words: "Last #" },
      { id: "2", by: "saving", than: 20, words: "−# %" },
      { id: "3", by: "new", than: 7, words: "New" },
    ] as const;
    const badge = (item: Partial<Item>, today = "2026-12-02") =>
      words(written(block([item], { off: only("badge"), badges: [...badges] }), "html", { today }));
    expect(badge({ stock: 5 })).toBe("Last 5");
    expect(badge({ stock: 6 })).toBe("");
    expect(badge({ stock: 0 })).toBe("");
    expect(badge({ price: 10, sale: 7.5 })).toBe("−25 %");
    expect(badge({ price: 10, sale: 8.1 })).toBe("");
    expect(badge({ date: "2026-11-25" })).toBe("New");
    expect(badge({ date: "2026-11-24" })).toBe("");
    expect(badge({ date: "2026-12-03" })).toBe("");
    expect(badge({ date: "2026-11-25T23:00:00Z" }, "")).toBe("");
  });

  test("as much of its text as is asked for, by letters or by lines of the room there is", () => {
    const text = "Climb to eight feet and crop until the first frost of the year. ".repeat(6);
    const at = (width: number, textLines: number) =>
      words(
        written(block([{ text }], { off: only("text"), across: 1, shorten: "lines", textLines }), "html", {
          width,
        }),
      ).length;
    expect(at(560, 1)).toBeLessThan(at(560, 2));
    expect(at(250, 2)).toBeLessThan(at(560, 2));
  });

  test("where it goes into the calendar, with its hours; what has none does not", () => {
    const shownAs = (item: Partial<Item>) => block([item], { off: only("title", "calendar") });
    const html = written(shownAs({ ...EVENT, text: "Bring gloves." }), "html");
    const [, href] = /href="([^"]*calendar\.ics[^"]*)"/.exec(html)!;
    expect(calendarEntry(new URL(href.replaceAll("&amp;", "&")).searchParams)).toEqual({
      title: "Sowing",
      start: Date.parse("2026-12-07T10:00:00Z"),
      end: Date.parse("2026-12-07T12:00:00Z"),
      place: "Marl Bay",
      about: "Bring gloves.",
    });
    expect(written(shownAs(EVENT), "text")).toContain(
      "Add to my calendar: https://septima.example/calendar.ics?",
    );
    for (const part of [{ until: undefined }, { date: "2026-12-07" }, { date: null }, { title: "" }])
      expect(written(shownAs({ ...EVENT, ...part }), "html")).not.toContain("calendar.ics");
  });

  test("by words in place of a button where it leads, told apart aloud", () => {
    const html = written(block([BEANS], { off: only("button"), leadsBy: "words" }), "html");
    expect(words(html)).toBe("Have a look Runner &lt;beans&gt;");
    expect(html).not.toContain("bgcolor");
  });
});

describe("items side by side", () => {
  const five = Array.from({ length: 5 }, (_, at) => ({ title: `Item ${at}` }));
  const columns = (across: number, width: number) =>
    [...written(block(five, { across }), "html", { width }).matchAll(/<h\d/g)].length;
  /** How wide the pictures of a row are. */
  const widths = (across: number, width: number) =>
    [
      ...written(block([BEANS, BEANS, BEANS, BEANS], { across }), "html", { width }).matchAll(
        /alt="" width="(\d+)" height="(\d+)"/g,
      ),
    ].map(([, w]) => Number(w));

  test("are all there, the last row filled up with nothing", () => {
    for (const across of [1, 2, 3, 4]) expect(columns(across, 560)).toBe(5);
  });

  test("are as many as were asked for and have room", () => {
    expect(widths(4, 560)).toEqual([125, 125, 125, 125]);
    expect(widths(4, 270).every((width) => width >= 110)).toBe(true);
    expect(widths(3, 100)).toEqual([100, 100, 100, 100]);
  });

  test("stand with their pictures beside their words, or the first of them large", () => {
    const wide = (arranged: "list" | "lead") =>
      [
        ...written(block([BEANS, BEANS, BEANS], { arranged, across: 2 }), "html", { width: 560 }).matchAll(
          /alt="" width="(\d+)"/g,
        ),
      ].map(([, w]) => Number(w));
    expect(wide("lead")).toEqual([560, 270, 270]);
    expect(new Set(wide("list")).size).toBe(1);
    expect(wide("list")[0]).toBeLessThan(200);
  });

  test("have one heading of the block's own level, and the others below it", () => {
    const html = written(block(five), "html", { level: 1 });
    expect([...html.matchAll(/<h(\d)/g)].map(([, level]) => level)).toEqual(["1", "2", "2", "2", "2"]);
  });
});

test("pictures stand in the shape that is asked for, as wide and high as it says, wherever they are from", () => {
  const shown = (placed: Partial<Item>, more: Partial<ItemsBlock>) => {
    const html = written(block([placed], { across: 1, ...more }), "html");
    return /<img src="([^"]+)" alt="" width="(\d+)"(?: height="(\d+)")?/.exec(html)?.slice(1);
  };
  const [src, width, height] = shown(BEANS, { ratio: "16x9" }) ?? [];
  expect(src).toMatch(/\/shaped\/16x9\/\d+\/shop\?id=0&amp;v=\w+$/);
  expect(Number(height)).toBe(Math.round((Number(width) * 9) / 16));
  expect(shown({ ...BEANS, picture: "/pictures/bed.png" }, { ratio: "1x1" })?.[0]).toMatch(
    /\/shaped\/1x1\/\d+\/library\?id=bed\.png$/,
  );
  expect(shown(BEANS, {})?.[0]).toBe(BEANS.picture);
});

test("a fact that is an address is a link that is called as the fact is", () => {
  const facts = [
    { id: "1", fact: "check_in", label: "Check-in" },
    { id: "2", fact: "plan", label: "" },
    { id: "3", fact: "bad", label: "Note" },
  ];
  const it = block(
    [
      {
        title: "Dinner",
        facts: { check_in: "https://shop.example/in?a={$x}&b", bad: "javascript:alert(1)" },
      },
    ],
    { facts, off: [] },
  );
  (it.items[0] as { own?: object }).own = { plan: "https://plan.example/p" };
  const html = written(it, "html");
  expect(html).toMatch(/<a href="https:\/\/shop\.example\/in\?a=\{\$x\}&amp;b"[^>]*>Check-in</);
  expect(html).toMatch(/<a href="https:\/\/plan\.example\/p"[^>]*>plan\.example\/p</);
  expect(html).toContain(">Note: javascript:alert(1)<");
  expect(written(it, "text")).toContain("Check-in: https://shop.example/in?a={$x}&b\n");
});
