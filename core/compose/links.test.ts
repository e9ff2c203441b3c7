import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import { type Block, type Email, type Inline, richText } from "../email";
import { blankEmail, changeEmail, LAYOUTS, linksOf, replacedLinks, setLinks } from ".";

const link = (text: string, href: string, ...more: Inline[]): Inline[] => [
  { type: "text", text, marks: [{ type: "link", attrs: { href } }] },
  ...more,
];

function emailWith(...blocks: Block[]): Email {
  let next = 0;
  const email = blankEmail(LAYOUTS[3], { name: "", address: "a@b.example" }, "plain", () => `i${next++}`);
  email.sections[0].rows = [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }];
  return email;
}

const email = emailWith(
  { ...createBlock("button", "button"), href: "https://a.example/one" },
  {
    ...createBlock("text", "text"),
    content: {
      type: "doc",
      content: [
        {
          type: "paragraph",
          content: [
            { type: "text", text: "See " },
            ...link("the ", "https://a.example/two"),
            {
              type: "text",
              text: "journal",
              marks: [{ type: "bold" }, { type: "link", attrs: { href: "https://a.example/two" } }],
            },
            { type: "text", text: " and " },
            ...link("more", "https://b.example/"),
          ],
        },
      ],
    },
  },
  { ...createBlock("menu", "menu"), items: [{ id: "1", label: "Shop", href: "" }] },
  { ...createBlock("pair", "pair"), secondHref: "https://a.example/three" },
  { ...createBlock("image", "image"), src: "/pictures/x.png", alt: "A leaf", href: "https://a.example/leaf" },
  { ...createBlock("code", "code"), html: '<p>Own <a href="https://c.example/?a=1&amp;b=2">link</a></p>' },
);

test("every link is listed with its words, its address and whether it can be changed here", () => {
  expect(linksOf(email).map(({ block, words, href, fixed }) => [block, words, href, fixed !== null])).toEqual(
    [
      ["button", "Read more", "https://a.example/one", false],
      ["text", "the journal", "https://a.example/two", false],
      ["text", "more", "https://b.example/", false],
      ["menu", "Shop", "", false],
      ["pair", "Yes, please", "", false],
      ["pair", "Tell me more", "https://a.example/three", false],
      ["image", "A leaf", "https://a.example/leaf", false],
      ["code", "link", "https://c.example/?a=1&b=2", true],
      [expect.any(String), "Unsubscribe", "", true],
    ],
  );
});

test("a link whose words have different looks is changed as one; nothing else changes", () => {
  const [, two] = linksOf(email);
  const after = changeEmail(email, setLinks([{ link: two, href: "https://new.example/" }])).email;
  expect(linksOf(after)[1]).toMatchObject({ words: "the journal", href: "https://new.example/" });
  const back = changeEmail(after, setLinks([{ link: linksOf(after)[1], href: two.href }])).email;
  expect(back).toEqual(email);
});

test("replacing reaches what holds the words sought, and only that", () => {
  const found = replacedLinks(linksOf(email), "a.example", "shop.example");
  expect(found.map(({ href }) => href)).toEqual([
    "https://shop.example/one",
    "https://shop.example/two",
    "https://shop.example/three",
    "https://shop.example/leaf",
  ]);
  const after = changeEmail(email, setLinks(found)).email;
  expect(linksOf(after).filter(({ href }) => href.includes("a.example"))).toEqual([]);
  expect(replacedLinks(linksOf(email), "", "x")).toEqual([]);
});

test("words that are no links are none", () => {
  expect(
    linksOf(emailWith({ ...createBlock("text", "t"), content: richText("https://a.example/") })),
  ).toHaveLength(1);
});

test("links in words that differ by reader are listed, and changed where they stand", () => {
  const rule = { kind: "all" as const, of: [] };
  const differing: Inline = {
    type: "either",
    attrs: {
      cases: [
        { when: rule, words: [...link("early", "https://a.example/early"), { type: "text", text: " sown" }] },
      ],
      otherwise: [
        {
          type: "either",
          attrs: {
            cases: [{ when: rule, words: link("late", "https://a.example/late") }],
            otherwise: link("any", "https://b.example/any"),
          },
        },
      ],
    },
  };
  const before = emailWith({
    ...createBlock("text", "text"),
    content: {
      type: "doc",
      content: [{ type: "paragraph", content: [{ type: "text", text: "Sow " }, differing] }],
    },
  });
  const found = linksOf(before).filter(({ block }) => block === "text");
  expect(found.map(({ words, href }) => [words, href])).toEqual([
    ["early", "https://a.example/early"],
    ["late", "https://a.example/late"],
    ["any", "https://b.example/any"],
  ]);
  const changes = replacedLinks(found, "a.example", "c.example");
  expect(changes).toHaveLength(2);
  const after = changeEmail(before, setLinks(changes)).email;
  expect(
    linksOf(after)
      .filter(({ block }) => block === "text")
      .map(({ href }) => href),
  ).toEqual(["https://c.example/early", "https://c.example/late", "https://b.example/any"]);
  expect(JSON.stringify(after).replaceAll("c.example", "a.example")).toBe(JSON.stringify(before));
});
