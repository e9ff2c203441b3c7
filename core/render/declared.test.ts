/** What is asked of every type of block alike, by what it declares of its properties. */
import { describe, expect, test } from "vitest";
import {
  BLOCK_TYPES,
  type BlockTypeName,
  blockType,
  createBlock,
  filledBlock,
  grownAt,
  parseEmail,
  picturesOf,
  placedLinksOf,
  propertiesOf,
  textsOf,
  wordsOf,
} from "../blocks";
import { type Block, type Email, valueAt, withValueAt } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { allPlacedIn, declared, NODE_PROPERTIES, oneMore, type Property } from "../properties";
import { unitsOfBlock } from "../translation";
import { compileBlock, everySurroundings } from "./canvas";
import { compile } from "./compile";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const names = Object.keys(BLOCK_TYPES) as BlockTypeName[];
const world = sampleWorld("2026-11-25");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://septima.example"),
);

function emailWith(block: Block): Email {
  const email = sampleEmail(1);
  const rows = [{ id: "r", columns: [{ id: "c", width: 100, blocks: [block] }] }];
  return parseEmail({ ...email, sections: [{ id: "s", rows }, ...email.sections] });
}
const messageOf = (block: Block) => {
  const { html, text } = personalise(bind(compile(emailWith(block), SAMPLE_OPTIONS), world), reader);
  return `${html}\n${text}`;
};
function canvasOf(block: Block): string {
  const email = emailWith(block);
  const around = everySurroundings(email, SAMPLE_OPTIONS).get(block.id);
  if (!around) throw new Error("it stands nowhere");
  return JSON.stringify(compileBlock(block, around, email, SAMPLE_OPTIONS).html).replaceAll('\\"', '"');
}

/** A block in which every place for words, text and address says which one it is. */
function saying(name: BlockTypeName): {
  block: Block;
  signs: Map<string, string>;
  /** Of texts that nobody reads, such as names in addresses. */
  unsaid: string[];
} {
  let block = filledBlock(name, "b");
  const signs = new Map<string, string>();
  const unsaid: string[] = [];
  for (const { path, property } of allPlacedIn(BLOCK_TYPES[name].properties, block)) {
    const sign = `zq${signs.size + unsaid.length}qz`;
    const value = {
      line: [{ type: "text", text: sign }],
      prose: { type: "doc", content: [{ type: "paragraph", content: [{ type: "text", text: sign }] }] },
      text: name === "code" ? `<p>${sign}</p>` : sign,
      address: `https://${sign}.example/`,
    }[property.kind as string];
    if (value === undefined) continue;
    block = withValueAt(block, path, value) as Block;
    if (property.kind === "text" && !property.said) unsaid.push(sign);
    else signs.set(path, sign);
  }
  return { block, signs, unsaid };
}

describe.each(names)("%s", (name) => {
  const { properties, schema, parts = [], look } = BLOCK_TYPES[name];
  const all = [...declared(properties)];

  test("names only properties and parts that there are", () => {
    const keys = new Set(Object.keys(properties));
    for (const { path, property, among } of all) {
      const named = [
        ...Object.keys(property.when ?? {}),
        ...(property.kind === "address" ? (property.of ?? []) : []),
        ...(property.kind === "drawing" && property.own ? [property.own] : []),
      ];
      for (const key of named) expect(Object.keys(among), `${path} names ${key}`).toContain(key);
      const outside = [
        ...(property.kind === "each" ? [property.by] : []),
        ...(property.kind === "colour" && typeof property.on === "object" ? Object.values(property.on) : []),
      ];
      for (const key of outside) expect(keys, `${path} names ${key}`).toContain(key);
      if (property.part !== undefined) expect(parts.map(({ key }) => key)).toContain(property.part);
    }
    for (const key of look) expect([...keys, ...Object.keys(NODE_PROPERTIES.block)]).toContain(key);
  });

  test("comes from the shelf as its schema takes it, and each value it may have is one", () => {
    const block = createBlock(name, "b");
    expect(schema.safeParse(block).error).toBeUndefined();
    for (const { property, key } of all) {
      if (property.fresh !== undefined && property.kind !== "list")
        expect(property.schema.safeParse(property.fresh).error, key).toBeUndefined();
      for (const [value, fits] of edges(property))
        expect(property.schema.safeParse(value).success, `${key}: ${String(value).slice(0, 20)}`).toBe(fits);
    }
  });

  test("its words are marked on the canvas where they are written", () => {
    const { block } = saying(name);
    const canvas = canvasOf(block);
    for (const { path } of wordsOf(block)) expect(canvas, path).toContain(`data-edit="${path}"`);
    expect([...canvas.matchAll(/data-edit="/g)]).toHaveLength(wordsOf(block).length);
  });

  test("what it says is translated, found and sent, each of it under a name of its own", () => {
    const { block, signs, unsaid } = saying(name);
    const units = new Map(unitsOfBlock(block).map((unit) => [unit.path, unit]));
    const found = new Set([
      ...wordsOf(block).map(({ path }) => path),
      ...textsOf(block).map(({ path }) => path),
      ...placedLinksOf(block).map(({ path }) => path),
    ]);
    const message = messageOf(block);
    const counted = new Set([...propertiesOf(block)].map(({ path }) => path));
    for (const [path, sign] of signs) {
      expect(units.has(path), path).toBe(counted.has(path));
      expect(found.has(path), path).toBe(counted.has(path));
      if (counted.has(path) && !UNSEEN.has(`${name} ${path}`)) expect(message, path).toContain(sign);
    }
    const read = message.replace(/<[^>]*>|https?:\S*/g, " ");
    for (const sign of unsaid) expect(read).not.toContain(sign);
    for (const { path } of picturesOf(block)) expect(units.has(`${path}src`)).toBe(true);
    const labels = [...units.values()].map(({ kind, label }) => `${kind} ${label}`);
    expect(new Set(labels).size).toBe(labels.length);
  });

  test("a part that is switched off takes along all that belongs to it, and nothing else", () => {
    const { block, signs } = saying(name);
    const whole = messageOf(block);
    for (const { key } of parts) {
      const without = { ...block, off: [key] };
      const message = messageOf(without);
      const units = new Set(unitsOfBlock(without).map(({ path }) => path));
      const belongs = new Set(
        [...propertiesOf(block)].filter(({ property }) => property.part === key).map(({ path }) => path),
      );
      for (const [path, sign] of signs) {
        if (!belongs.has(path)) {
          if (whole.includes(sign) && !alsoIn(name, key, path))
            expect(message, `${path} without ${key}`).toContain(sign);
          continue;
        }
        expect(message, `${path} without ${key}`).not.toContain(sign);
        expect(units.has(path)).toBe(false);
        expect(wordsOf(without).some((words) => words.path === path)).toBe(false);
        expect(placedLinksOf(without).some((link) => link.path === path)).toBe(false);
      }
    }
  });

  test("its lists grow at the end of their last words, up to their bound", () => {
    const block = filledBlock(name, "b");
    for (const [key, property] of Object.entries(properties)) {
      if (property.kind !== "list") continue;
      const items = block[key] as { id: string }[];
      const inLast = wordsOf(block).findLast(({ path }) => path.startsWith(`${key}/${items.at(-1)?.id}/`));
      if (!inLast) continue;
      // What nobody has written into is gone on from.
      const untouched = { ...block, [key]: [...items, oneMore(property, items, "new")] };
      const inNew = wordsOf(untouched).findLast(({ path }) => path.startsWith(`${key}/new/`));
      expect(grownAt(untouched, inNew?.path ?? "", "more")).toBeNull();
      const grown = grownAt(block, inLast.path, "more");
      const longer = { ...block, ...grown?.set } as Block;
      expect(schema.safeParse(longer).error).toBeUndefined();
      expect((longer[key] as unknown[]).length).toBe(items.length + 1);
      expect(wordsOf(longer).map(({ path }) => path)).toContain(grown?.path);
      const [first] = wordsOf(block).filter(({ path }) => path.startsWith(`${key}/`));
      expect(grownAt(block, first.path, "more")).toBeNull();
      const most = Array.from({ length: property.most }, (_, n) => ({ ...items[0], id: `m${n}` }));
      const last = wordsOf({ ...block, [key]: most }).findLast(({ path }) => path.startsWith(`${key}/`));
      expect(grownAt({ ...block, [key]: most }, last?.path ?? "", "more")).toBeNull();
    }
  });
});

/** Values at and beyond the bounds of a property, and whether each may be. */
function edges(property: Property): [unknown, boolean][] {
  switch (property.kind) {
    case "number":
      return [
        [property.min, true],
        [property.max, true],
        [property.min - 1, false],
        [property.max + 1, false],
      ];
    case "text":
      return [
        ["x".repeat(property.most), true],
        ["x".repeat(property.most + 1), false],
        ["", property.least === 0],
      ];
    case "choice":
      return [...property.options.map(({ value }): [unknown, boolean] => [value, true]), ["another", false]];
    case "colour":
      return [
        ["#12ab9F", true],
        ["red", false],
      ];
    default:
      return [];
  }
}

/** What is not read in a message where it stands alone: it goes into a calendar, or is for other cases. */
const UNSEEN = new Set([
  "appointment about",
  "coupon otherwise",
  "social items/1/label",
  // Said of what is sold out alone.
  "items soldWords",
  "picks soldWords",
  // Said of what has such a fact, or of what it is true, alone.
  ...["items", "picks"].flatMap((name) => [
    `${name} facts/1/label`,
    `${name} badges/1/words`,
    `${name} calendarWords`,
  ]),
  // Said where there are too few alone.
  "picks instead",
]);

/** What stands in a part besides what belongs to it: a calendar's title and place can be left out of the message alone. */
const alsoIn = (name: string, part: string, path: string) =>
  name === "appointment" && (part === path || part === "place");

test("what a declaration says reaches every property that a block holds", () => {
  for (const name of names) {
    const block = createBlock(name, "b") as Block;
    const held = new Set([...allPlacedIn(BLOCK_TYPES[name].properties, block)].map(({ path }) => path));
    for (const key of Object.keys(block))
      if (!["id", "type", "off", "padding"].includes(key)) expect(held, `${name} ${key}`).toContain(key);
    for (const path of held) if (!path.includes("/")) valueAt(block, path);
    expect(blockType(name)?.properties).toBe(BLOCK_TYPES[name].properties);
  }
});
