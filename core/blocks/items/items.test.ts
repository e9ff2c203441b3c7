/** Placed items: what is said of them to readers, part by part, in every arrangement. */
import { describe, expect, test } from "vitest";
import { type Item, itemOf } from "../../items";
import { sampleContext } from "../../render/sample";
import { createBlock } from "../registry";
import type { ItemsBlock } from ".";
import { items } from ".";

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

  test("have one heading of the block's own level, and the others below it", () => {
    const html = written(block(five), "html", { level: 1 });
    expect([...html.matchAll(/<h(\d)/g)].map(([, level]) => level)).toEqual(["1", "2", "2", "2", "2"]);
  });
});
