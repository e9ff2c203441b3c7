/** Catalogues as shops have them, and as nobody should: whatever they are written in gives the same items. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Item } from "../items";
import { ColumnWatch } from "../tables";
import {
  type Format,
  firstOf,
  formatOf,
  guessMapping,
  isCatalogue,
  itemReader,
  type Mapping,
  openRecords,
  type RawRecord,
} from ".";

/** All records of a document, given in pieces of some length, and what was told of it. */
function recordsOf(text: string, length = 4096): { records: RawRecord[]; told: string[]; format: Format } {
  const bare = text.replace(/^\uFEFF/, "");
  const format = formatOf(text.slice(0, 10_000)) as Exclude<Format, "feed" | "calendar">;
  const told: string[] = [];
  const reader = openRecords(format, bare.slice(0, 10_000), (problem) => told.push(problem));
  const records: RawRecord[] = [];
  for (let at = 0; at < bare.length; at += length) records.push(...reader.push(bare.slice(at, at + length)));
  records.push(...reader.end());
  return { records, told, format };
}

function mappingOf(records: readonly RawRecord[]): Mapping {
  const watches = new Map<string, ColumnWatch>();
  for (const { cells } of records)
    for (const [name, cell] of cells) {
      const watch = watches.get(name) ?? new ColumnWatch(name, 2026);
      watches.set(name, watch);
      watch.take(firstOf(cell));
    }
  return guessMapping([...watches.values()].map((watch) => watch.facts()));
}

/** What a document comes to by what its columns most likely mean. */
function read(text: string, length?: number) {
  const { records, told, format } = recordsOf(text, length);
  const mapping = mappingOf(records);
  const itemOf = itemReader(mapping, "https://shop.example/feeds/all.csv", 2026);
  const items: Item[] = [];
  const odd = [...told];
  for (const record of records) {
    const made = itemOf(record);
    if ("reason" in made) odd.push(`${record.where} ${made.reason}`);
    else {
      items.push(made.item);
      odd.push(...made.odd.map((words) => `${record.where}: ${words}`));
    }
  }
  return { items, odd, mapping, format };
}

const BEANS = {
  id: "B1",
  title: "Runner beans",
  text: "Sow in May & wait.",
  link: "https://shop.example/beans",
  picture: "https://shop.example/feeds/beans.png",
  price: 3.5,
  sale: 2.8,
  currency: "EUR",
  stock: 12,
  category: ["Seeds", "Beans"],
};

describe("the same goods, however they are written:", () => {
  test.each<[string, string, Format]>([
    [
      "CSV",
      'id,title,description,link,image_link,price,sale_price,stock,product_type,organic\nB1,Runner beans,"<p>Sow in <b>May</b> &amp; wait.</p>",/beans,beans.png,3.50 EUR,2.80 EUR,12,Seeds > Beans,yes\n',
      "table",
    ],
    [
      "a spreadsheet of the continent, with a byte order mark, semicolons and decimal commas",
      "\uFEFFArtikelnummer;Bezeichnung;Beschreibung;URL;Bild;Preis;Aktionspreis;Bestand;Kategorie\r\nB1;Runner beans;Sow in May & wait.;/beans;beans.png;3,50 €;2,80 €;12;Seeds > Beans\r\n",
      "table",
    ],
    [
      "TSV",
      "sku\tname\tdescription\turl\timage\tprice\tsale price\tcurrency\tquantity\tcategory\nB1\tRunner beans\tSow in May & wait.\t/beans\tbeans.png\t3.5\t2.8\tEUR\t12\tSeeds|Beans\n",
      "table",
    ],
    [
      "JSON with the list some steps within",
      JSON.stringify({
        shop: "Tansy Row",
        data: {
          products: [
            {
              id: "B1",
              title: "Runner beans",
              description: "Sow in May & wait.",
              url: "/beans",
              images: [{ src: "beans.png" }, { src: "other.png" }],
              price: { amount: 3.5, currency: "EUR" },
              sale_price: 2.8,
              stock: 12,
              categories: ["Seeds", "Beans"],
            },
          ],
        },
      }),
      "json",
    ],
    [
      "JSON Lines",
      '{"id":"B1","title":"Runner beans","description":"Sow in May &amp; wait.","link":"/beans","image":"beans.png","price":"3.50 EUR","sale_price":"2.80 EUR","inventory":12,"category":["Seeds","Beans"]}\n{"id":"B2","title":"Peas","price":"1 EUR"}\n',
      "json lines",
    ],
    [
      "XML as shops export it",
      `<?xml version="1.0"?><rss version="2.0" xmlns:g="https://ns.example/1.0"><channel><title>Shop</title><link>https://shop.example</link>
       <item><g:id>B1</g:id><title>Runner beans</title><description><![CDATA[<p>Sow in May &amp; wait.</p>]]></description><link>/beans</link>
       <g:image_link>beans.png</g:image_link><g:price>3.50 EUR</g:price><g:sale_price>2.80 EUR</g:sale_price><g:quantity>12</g:quantity><g:product_type>Seeds &gt; Beans</g:product_type></item>
       <item><g:id>B2</g:id><title>Peas</title><g:price>1 EUR</g:price></item></channel></rss>`,
      "xml",
    ],
  ])("%s", (_about, text, format) => {
    const found = read(text);
    expect(found.format).toBe(format);
    expect(found.items[0]).toMatchObject(BEANS);
    expect(found.odd).toEqual([]);
    expect(isCatalogue(found.mapping)).toBe(true);
  });

  test("and wherever the pieces are cut", () => {
    const things = fc.array(
      fc.record({
        title: fc
          .string({ unit: fc.constantFrom("a", "ü", "🌱", "&", "<", '"', "\\", ",", "]", "}", " ") })
          .map((it) => `T${it}`),
        note: fc.array(fc.string({ unit: fc.constantFrom("x", "{", "[", "]]>", "\n", ";") }), {
          maxLength: 3,
        }),
      }),
      { minLength: 2, maxLength: 5 },
    );
    const xml = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
    fc.assert(
      fc.property(things, fc.integer({ min: 1, max: 30 }), (all, length) => {
        const said = all.map(({ title, note }) => [
          title.trim(),
          note.filter((it) => it.trim() !== "").map((it) => it.trim()),
        ]);
        const forms = [
          JSON.stringify({ of: { things: all } }, null, 1),
          all.map((one) => `${JSON.stringify(one)}\n`).join(""),
          `<all>${all.map(({ title, note }) => `<thing><title>${xml(title)}</title>${note.map((it) => `<note>${xml(it)}</note>`).join("")}</thing>`).join("\n")}</all>`,
        ];
        for (const text of forms) {
          const { records } = recordsOf(text, length);
          expect(
            records.map(({ cells }) => {
              const note = cells.get("note");
              const list = note === undefined ? [] : typeof note === "string" ? [note] : note;
              return [
                firstOf(cells.get("title")).trim(),
                list.map((it) => it.trim()).filter((it) => it !== ""),
              ];
            }),
          ).toEqual(said);
        }
      }),
      { numRuns: 150 },
    );
  });
});

describe("what is not as it should be is named with its place:", () => {
  const head = "id,title,price,link,date\n";
  test.each([
    ["1,,2,,", "Line 2 has no title"],
    ["1,Beans,many,,", "Line 2: “many” is no price"],
    ["1,Beans,-4,,", "Line 2: “-4” is no price"],
    ["1,Beans,2,javascript:alert(1),", "Line 2: “javascript:alert(1)” is no address of a page"],
    ["1,Beans,2,,the day after market", "Line 2: “the day after market” is no date"],
  ])("%s", (line, words) => {
    // What the columns mean is told by the others.
    const others = Array.from(
      { length: 30 },
      (_, n) => `${n + 10},Peas ${n},1.50,/peas/${n},2026-03-0${1 + (n % 9)}\n`,
    );
    expect(read(`${head}${line}\n${others.join("")}`).odd).toEqual([words]);
  });

  test("a cell of a million characters is cut, and 300 columns are columns", () => {
    const { items } = read(`title,price,description\nBeans,2,${"word ".repeat(200_000)}\n`);
    expect(items[0].text).toHaveLength(3000);
    const names = Array.from({ length: 300 }, (_, n) => `fact ${n}`);
    const wide = read(`title,${names.join(",")}\nBeans,${names.map(() => "yes indeed").join(",")}\n`);
    expect(Object.keys(wide.items[0].facts)).toHaveLength(300);
  });

  test("a missing picture, a price that says from when, a sale that is none, nothing left", () => {
    const { items, odd } = read(
      "id,title,price,sale_price,image,availability\n1,Beans,from 2.50 GBP,3.00 GBP,,out of stock\n2,Peas,2.00 GBP,1.00 GBP,p.png,in stock\n",
    );
    expect(items[0]).toMatchObject({ price: 2.5, currency: "GBP", picture: null, stock: 0 });
    expect(items[0].sale).toBeUndefined();
    expect(items[1]).toMatchObject({ price: 2, sale: 1 });
    expect(items[1].stock).toBeUndefined();
    expect(odd).toEqual([]);
  });

  test.each<[string, string, RegExp]>([
    ["a table", 'id,title,price\n1,Beans,2\n2,"Peas', /line 3 is never closed/],
    ["a table, between cells", "id,title,price\n1,Beans,2\n2,Pe", /stops half way: line 3 has 2 of 3 cells/],
    ["JSON", '[{"id":1,"title":"Beans"},\n{"id":2,"ti', /no end after line 2/],
    ["JSON Lines", '{"id":1,"title":"Beans"}\n{"id":2,"ti', /stops half way, in line 2/],
    ["XML", "<all><thing><title>Beans</title></thing>\n<thing><title>Pe", /no end after line 2/],
  ])("%s that stops half way", (_about, text, words) => {
    expect(() => recordsOf(text)).toThrow(words);
  });

  test("JSON that is none, in its line", () => {
    expect(() => recordsOf('[\n{"id":1},\n{"id":2,,}\n]')).toThrow(/^Line 3 is not JSON/);
    expect(recordsOf('{"id":1,"title":"B"}\nnonsense\n{"id":2,"title":"C"}\n')).toMatchObject({
      told: ["Line 2 is not JSON"],
      records: [{ where: "Line 1" }, { where: "Line 3" }],
    });
  });

  test.each<[string, RegExp]>([
    ["<!doctype html><title>Shop</title>", /found a web page/],
    ["Out of order", /found plain text/],
    ["", /empty/],
  ])("%j is no source", (text, words) => {
    expect(() => formatOf(text)).toThrow(words);
  });
});

test("records of any shape: what is called like nothing known is a fact with its kind", () => {
  const { mapping, items } = read(
    "Ref,Headline,Bedrooms,Asking price,Garden,Viewing from,Features,Notes\n" +
      Array.from(
        { length: 12 },
        (_, n) =>
          `H${n},Cottage ${n},${2 + (n % 4)},"£245,${100 + n}",${n % 2 ? "yes" : "no"},2026-0${1 + (n % 9)}-10,stove;shed,Words ${n} of its own\n`,
      ).join(""),
  );
  const kinds = mapping.columns.map(({ name, target }) => [
    name,
    target.to === "part" ? target.part : target.to === "fact" ? target.kind : "",
  ]);
  expect(kinds).toEqual([
    ["Ref", "id"],
    ["Headline", "title"],
    ["Bedrooms", "number"],
    ["Asking price", "price"],
    ["Garden", "boolean"],
    ["Viewing from", "date"],
    ["Features", "set"],
    ["Notes", "text"],
  ]);
  expect(items[3]).toMatchObject({
    id: "H3",
    title: "Cottage 3",
    price: 245_103,
    currency: "GBP",
    facts: { bedrooms: 5, garden: true, viewing_from: "2026-04-10", features: ["stove", "shed"] },
  });
});

test("facts may be called like what every object has", () => {
  const names = ["constructor", "__proto__", "toString", "hasOwnProperty"];
  const { items } = read(
    `title,price,${names.join(",")}\nBeans,2,${names.map((_, n) => `words ${n}`).join(",")}\n`,
  );
  expect(items[0].facts).toEqual({
    constructor: "words 0",
    proto: "words 1",
    to_string: "words 2",
    has_own_property: "words 3",
  });
});

test("a feed of articles is one, whatever stands in it, and a catalogue is none", () => {
  const rss = (item: string) =>
    `<?xml version="1.0"?><rss version="2.0"><channel><title>T</title>${item}</channel></rss>`;
  expect(formatOf(rss("<item><title>The price of beans</title></item>"))).toBe("feed");
  expect(formatOf(rss("<item><title>Beans</title><price>2</price></item>"))).toBe("xml");
  expect(formatOf('{"version":"https://jsonfeed.org/version/1.1","items":[]}')).toBe("feed");
  expect(formatOf("BEGIN:VCALENDAR\r\n")).toBe("calendar");
});
