import { expect, test } from "vitest";
import { createBlock, parseEmail } from "../blocks";
import { type Block, type Email, inlineText, type Section } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { blockText, compile } from ".";
import { newestOf, SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://septima.example"),
);
const rendered = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader);

function withSection(section: Partial<Section>, ...blocks: Block[]): Email {
  const email = sampleEmail(1);
  const rows = [{ id: "row", columns: [{ id: "column", width: 100, blocks }] }];
  return parseEmail({ ...email, sections: [{ id: "section", rows, ...section }, ...email.sections] });
}

test("a picture behind a section: by CSS, by attribute, by VML, and a colour where none is shown", () => {
  const { html } = rendered(
    withSection(
      {
        background: "#223344",
        picture: { src: "/pictures/a.png", position: "top", tile: false, open: true },
        width: 480,
      },
      createBlock("text", "t"),
    ),
  );
  const address = "https://septima.example/pictures/a.png";
  expect(html).toContain(`background="${address}" bgcolor="#223344"`);
  expect(html).toContain(
    `background-image:url(&#39;${address}&#39;);background-position:center top;background-size:cover`,
  );
  expect(html).toContain(`<v:fill type="frame" src="${address}" color="#223344"/>`);
  expect(html).toContain("mso-width-percent:1000;");
  expect(html).toContain("max-width:480px");
});

test("borders and corners take their room from what stands inside", () => {
  const image = {
    ...createBlock("image", "i"),
    src: "/pictures/a.png",
    alt: "A",
    natural: { width: 800, height: 400 },
  };
  const width = (section: Partial<Section>) =>
    Number(/<img [^>]*width="(\d+)"/.exec(rendered(withSection(section, image)).html)?.[1]);
  const plain = width({});
  expect(width({ border: { width: 5, style: "solid", color: "#112233" } })).toBe(plain - 10);
  expect(width({ width: 500 })).toBe(plain - 100);
});

test("what is different on phones stands in the style block, once for all parts that differ in the same way", () => {
  const phone = { size: 20, align: "center" as const, padding: { top: 1, right: 2, bottom: 3, left: 4 } };
  const { html } = rendered(
    withSection({}, { ...createBlock("text", "one"), phone }, createBlock("text", "x"), {
      ...createBlock("heading", "two"),
      phone: { size: 20 },
    }),
  );
  const style = html.slice(html.indexOf("<style>"), html.indexOf("</style>"));
  expect(style).toContain(".p-in1-2-3-4{padding:1px 2px 3px 4px!important}");
  expect(style).toMatch(/@media \(max-width:599px\)\{.*\.p-size20 p,.*font-size:20px!important/);
  expect(style.split("font-size:20px!important")).toHaveLength(2);
  expect(html.split('class="p-in1-2-3-4 p-to-center p-size20"')).toHaveLength(2);
  expect(html.split('class="p-size20"')).toHaveLength(2);
});

test("own words take the place of a block’s in the text part, with its rule and its reader’s data", () => {
  const own = {
    words: [
      { type: "text" as const, text: "By hand for " },
      { type: "mergeTag" as const, attrs: { field: "first_name", fallback: "you", format: "asIs" as const } },
    ],
    basis: "",
  };
  const email = withSection({}, { ...createBlock("heading", "h"), ownText: own }, createBlock("button", "b"));
  const { text } = rendered(email);
  expect(text).toMatch(/^By hand for Ines\n\nRead more\n\n/);
  const [heading] = email.sections[0].rows[0].columns[0].blocks;
  expect(inlineText(blockText(heading, email, SAMPLE_OPTIONS)!)).toBe("-- A heading --");
  const articles = newestOf("a");
  expect(blockText(articles, email, SAMPLE_OPTIONS)).toBeNull();
  const picks = {
    ...createBlock("picks", "p"),
    source: "journal",
    title: "For you",
    instead: "None",
  } as Block;
  expect(blockText(picks, email, SAMPLE_OPTIONS)).toBeNull();
});

test("numbered links are listed at the end, those of live content after the design’s", () => {
  const email = {
    ...withSection(
      {},
      { ...createBlock("button", "b"), href: "https://a.example/" },
      newestOf("a", { count: 1 }),
    ),
    textPart: { width: 76, links: "numbered" as const },
  };
  const program = compile(email, SAMPLE_OPTIONS);
  for (let refresh = 0; refresh < 2; refresh++) {
    const { text } = personalise(bind(program, world), reader);
    expect(text).toContain("Read more [1]");
    expect(text.match(/^\[1\] https:\/\/a\.example\/$/gm)).toHaveLength(1);
    expect(text.indexOf("Links\n[1]")).toBeGreaterThan(text.indexOf("Read more [1]"));
  }
});
