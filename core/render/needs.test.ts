/** What is about an address that is a tag is not written at all for readers for whom the tag is empty. */
import { describe, expect, test } from "vitest";
import { createBlock } from "../blocks";
import { type Block, type Inline, type Lookup, paragraphOf } from "../email";
import {
  ByteSink,
  bind,
  bindPart,
  bytePart,
  editions,
  personalise,
  previewAddresses,
  readerOf,
  run,
  runBytes,
} from "../personal";
import { compile, compileBlock } from ".";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const LOOKUP: Lookup = {
  key: "map",
  name: "Map",
  kind: "link",
  cases: [
    { name: "", when: { kind: "field", field: "zone", op: "is", value: "cool" }, value: { address: "" } },
    {
      name: "",
      when: { kind: "field", field: "zone", op: "is", value: "mild" },
      value: { address: "{$site}" },
    },
  ],
  otherwise: { address: "https://maps.example/all" },
};
const block = (type: Parameters<typeof createBlock>[0], more: object): Block =>
  ({ ...createBlock(type, "b1"), ...more }) as Block;
const linked = (href: string): Inline => ({
  type: "text",
  text: "their page",
  marks: [{ type: "link", attrs: { href } }],
});

function bound(one: Block) {
  const email = sampleEmail(1);
  email.sections.unshift({
    id: "s",
    rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [one] }] }],
  });
  return bind(compile(email, { ...SAMPLE_OPTIONS, lookups: [LOOKUP] }), world);
}
function read(one: Block, fields: Record<string, unknown>) {
  const program = bound(one);
  const reader = readerOf(sampleContact(1, fields), "en", previewAddresses("https://s.example"));
  const message = personalise(program, reader);
  const sink = new ByteSink();
  runBytes(
    bytePart(program.html, (text) => new TextEncoder().encode(text)),
    program,
    reader,
    sink,
  );
  expect(new TextDecoder().decode(sink.take())).toBe(message.html);
  return message;
}
const cells = (html: string) => html.match(/<tr/g)?.length ?? 0;
const FOOTER = cells(read(block("image", { src: "{$photo}" }), {}).html);

describe("a block whose address is an empty tag", () => {
  test.each<[string, Block, Record<string, unknown>, string]>([
    ["a picture", block("image", { src: "{$photo}", alt: "Them" }), { photo: "/pictures/a.png" }, "a.png"],
    [
      "a picture with words below",
      block("captioned", { src: "{$photo}", alt: "Them" }),
      { photo: "https://p.example/a.png" },
      "a.png",
    ],
    ["a button", block("button", { href: "{$site}" }), { site: "https://own.example/" }, "own.example"],
    [
      "a film",
      block("video", { src: "/pictures/x.png", href: "{$site}" }),
      { site: "https://own.example/" },
      "own.example",
    ],
  ])("%s is there for who has it, and its row closes up for who has not", (_, one, fields, said) => {
    expect(read(one, fields).html).toContain(said);
    for (const without of [
      {},
      { photo: "", site: "" },
      { photo: "no address", site: "javascript:alert(1)" },
    ]) {
      const { html, text } = read(one, without);
      expect(html).not.toMatch(/src=""|href="#"/);
      expect(cells(html)).toBe(FOOTER);
      expect(text.startsWith("-- ")).toBe(true);
    }
    expect(read(one, {}).text).not.toBe(read(one, fields).text);
  });

  test("is told on the canvas instead", () => {
    const email = sampleEmail(1);
    const place = {
      width: 560,
      ground: { light: "#FFFFFF", dark: "#000000" },
      levels: [{ level: 2 as const }],
    };
    const piece = compileBlock(block("button", { href: "{$site}" }), place, email, SAMPLE_OPTIONS);
    const part = bindPart(piece, world);
    const drawn = (fields: Record<string, unknown>) =>
      run(part.code, part, readerOf(sampleContact(1, fields), "en", previewAddresses("https://s.example")));
    expect(drawn({})).toContain("Left out for this reader");
    expect(drawn({ site: "https://own.example" })).not.toContain("Left out");
  });

  test("makes an edition of its own", () => {
    const readers = [{}, { site: "https://own.example" }, { site: "https://other.example" }].map(
      (fields, id) => sampleContact(id + 1, fields),
    );
    const found = editions(bound(block("button", { href: "{$site}" })), readers);
    expect(found.map(({ count }) => count)).toEqual([2, 1]);
  });
});

test("a link in words ends, the words stay", () => {
  const one = block("text", {
    content: { type: "doc", content: [paragraphOf("See ", linked("{$site}"), ".")] },
  });
  const { html, text } = read(one, {});
  expect(html).toContain("See their page.");
  expect(text).toContain("See their page.");
  const there = read(one, { site: "https://own.example/" });
  expect(there.html).toMatch(/See <a href="https:\/\/own.example\/"[^>]*>their page<\/a>\./);
  expect(there.text).toContain("See their page (https://own.example/).");
});

test("a link of a menu goes with the room it took; a picture that has no link stays", () => {
  const items = [
    { id: "1", label: "Shop", href: "https://shop.example/" },
    { id: "2", label: "Your page", href: "{$site}" },
  ];
  const { html, text } = read(block("menu", { items }), {});
  expect(html + text).not.toContain("Your page");
  const picture = read(block("image", { src: "/pictures/x.png", alt: "Them", href: "{$site}" }), {});
  expect(picture.html).toMatch(/<td align="center"><img /);
  expect(picture.text).toContain("[Them]\n");
});

test("a lookup decides by what it says to the reader, and what is written is written once", () => {
  const one = block("button", { href: "{$lookup.map}", content: [{ type: "text", text: "The map" }] });
  const says = (fields: Record<string, unknown>) => read(one, fields).html.includes("The map");
  expect(says({ zone: "cool" })).toBe(false);
  expect(says({ zone: "mild" })).toBe(false);
  expect(says({ zone: "mild", site: "https://own.example" })).toBe(true);
  expect(says({ zone: "warm" })).toBe(true);
  const written = bound(one).html.filter((op) => op.op === "static" && op.text.includes("The map"));
  expect(written).toHaveLength(1);
});
