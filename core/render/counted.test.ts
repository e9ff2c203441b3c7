import { expect, test } from "vitest";
import type { Email } from "../email";
import { bind, editions, personalise, readerOf, run } from "../personal";
import { escapeHtml } from "../program";
import { compile } from ".";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const ADDRESSES = {
  unsubscribe: "https://s.example/u",
  answer: "https://s.example/a",
  referral: "",
  letter: "https://septima.example/letter/l",
};
const RULES = {
  parameters: [{ name: "from", value: "a letter" }],
  untracked: ["https://tansyrow.example/plain"],
};

/** A message as it is, and as it is counted, with the links that are. */
function both(email: Email, fields: Record<string, unknown>) {
  const plain = bind(compile(email, SAMPLE_OPTIONS), world);
  const bound = bind(compile(email, { ...SAMPLE_OPTIONS, counted: true }), world);
  const system = {
    ...ADDRESSES,
    link: (place: number) => `https://count.example/${place}.`,
    opening: "https://count.example/open",
  };
  const reader = readerOf(sampleContact(1, fields), "en", system);
  return {
    reader,
    links: bound.links ?? [],
    leads: (place: number) => run(bound.links![place].to, bound, reader),
    plain: personalise(plain, readerOf(sampleContact(1, fields), "en", ADDRESSES)),
    counted: personalise(bound, reader),
  };
}
const POINT = /<img src="https:\/\/count\.example\/open"[^>]*>/;
const COUNTED = /https:\/\/count\.example\/(\d+)\./g;

const link = (href: string, text: string) =>
  ({ type: "text", text, marks: [{ type: "link", attrs: { href } }] }) as const;

/** A design with links of all kinds. */
function linked(): Email {
  const email = sampleEmail(24);
  const words = [
    link("https://tansyrow.example/a?x=1&y=2", "one"),
    link("https://tansyrow.example/plain", "left alone"),
    link("https://tansyrow.example/{$first_name}/é?q={$branch}", "own"),
    link("{$page}", "all own"),
    link("mailto:letters@tansyrow.example", "write"),
    link("tel:+441632960100", "ring"),
    link("#", "nowhere"),
    link("javascript:alert(1)", "harm"),
  ];
  const [column] = email.sections[0].rows[0].columns;
  const block = {
    id: "links",
    type: "text",
    content: { type: "doc", content: [{ type: "paragraph", content: words }] },
  };
  return {
    ...email,
    links: RULES,
    sections: [
      {
        ...email.sections[0],
        rows: [
          {
            ...email.sections[0].rows[0],
            columns: [{ ...column, blocks: [block as never, ...column.blocks] }],
          },
        ],
      },
      ...email.sections.slice(1),
    ],
  };
}

test.each([
  {},
  { first_name: "Ines & “Co”", branch: "Quay/Mill", page: "https://page.example/?a=1&b=2" },
  { first_name: "Ö", page: "javascript:alert(1)", member: true, zone: "cool" },
])("each counted link leads where it did, in both parts, and nothing else is otherwise: %j", (fields) => {
  for (const textPart of [undefined, { width: 0, links: "numbered" as const }]) {
    const { plain, counted, leads, links } = both({ ...linked(), ...(textPart && { textPart }) }, fields);
    expect(counted.html).toMatch(POINT);
    const back = counted.html
      .replace(POINT, "")
      .replace(COUNTED, (_, place) => escapeHtml(leads(Number(place))));
    expect(back).toBe(plain.html);
    // Lines are broken elsewhere, as addresses of their own are longer; in a list each block has its own.
    const words = (text: string) =>
      (textPart ? text.replace(/\nLinks\n[\s\S]*$/, "").replace(/\[\d+\]/g, "[]") : text).replace(
        /\s+/g,
        " ",
      );
    expect(words(counted.text.replace(COUNTED, (_, place) => leads(Number(place))))).toBe(words(plain.text));
    expect(links.some(({ block }) => block === "links")).toBe(true);
    // A link is the same in both parts.
    const places = (text: string) => new Set([...text.matchAll(COUNTED)].map(([, place]) => place));
    for (const place of places(counted.text)) expect(places(counted.html)).toContain(place);
    expect(counted.html).toContain('href="https://tansyrow.example/plain"');
    expect(counted.html).toContain('href="mailto:letters@tansyrow.example"');
    for (const place of links.keys()) expect(leads(place)).not.toMatch(/^javascript/);
    expect([...counted.html.matchAll(COUNTED)].length).toBeGreaterThan(3);
  }
});

test("counting can be off for presses and for openings", () => {
  const off = (rules: object) => both({ ...linked(), links: { ...RULES, ...rules } }, { first_name: "Ines" });
  const presses = off({ clicks: false });
  expect(presses.links).toEqual([]);
  expect(presses.counted.html.replace(POINT, "")).toBe(presses.plain.html);
  expect(off({ openings: false }).counted.html).not.toMatch(POINT);
  const none = off({ clicks: false, openings: false });
  expect(none.counted).toEqual(none.plain);
});

test("what is looked at is not counted", () => {
  const bound = bind(compile(linked(), SAMPLE_OPTIONS), world);
  expect(bound.links ?? []).toEqual([]);
});

test("it turns into the same editions as if nothing were counted", () => {
  const email = linked();
  const [first] = email.sections;
  const ruled = {
    ...email,
    sections: [
      { ...first, show: { kind: "field" as const, field: "zone", op: "is" as const, value: "cool" } },
      ...email.sections.slice(1),
    ],
  };
  const readers = [
    {},
    { zone: "cool" },
    { zone: "cool", first_name: "A" },
    { zone: "cool", first_name: "A", branch: "B" },
    { first_name: "A" },
    { page: "https://p.example" },
    { zone: "cool", page: "https://p.example" },
  ].map((fields, at) => sampleContact(at, fields));
  const of = (counted: boolean) =>
    editions(bind(compile(ruled, { ...SAMPLE_OPTIONS, counted }), world), readers).map(
      ({ count, sample, fallbacks, codes }) => ({ count, sample: sample.id, fallbacks, codes }),
    );
  expect(of(true)).toEqual(of(false));
  expect(of(true).length).toBeGreaterThan(3);
});
