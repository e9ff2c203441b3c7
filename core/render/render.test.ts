import { Parser } from "htmlparser2";
import { expect, test } from "vitest";
import { createBlock, parseEmail } from "../blocks";
import type { Block, Email, Inline } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { canvasBody, messageBody } from "../personal/test-canvas";
import { compile } from ".";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const email = parseEmail(sampleEmail(40));
const bound = bind(compile(email, SAMPLE_OPTIONS), world);
const reader = (fields: Record<string, unknown>) =>
  readerOf(sampleContact(1, fields), "en", previewAddresses("https://septima.example"));
const VOID = new Set(["meta", "img", "br"]);

/** All tags opened and closed in order; the names of those that were not. */
function unbalanced(html: string): string[] {
  const open: string[] = [];
  const wrong: string[] = [];
  const parser = new Parser({
    onopentagname: (name) => void (VOID.has(name) || open.push(name)),
    onclosetag(name, implied) {
      if (VOID.has(name)) return;
      if (implied || open.pop() !== name) wrong.push(name);
    },
  });
  parser.end(html);
  return [...wrong, ...open];
}

test("the message is well-formed for every kind of reader", () => {
  for (const zone of ["cool", "mild", "warm", undefined]) {
    for (const member of [true, false]) {
      const { html } = personalise(bound, reader({ zone, member, first_name: "Ines" }));
      expect(unbalanced(html)).toEqual([]);
    }
  }
});

test("the message keeps to what mail programs understand", () => {
  const { html } = personalise(bound, reader({}));
  expect(html).toMatch(/^<!doctype html><html lang="en" dir="ltr"/);
  for (const meta of [
    "charset",
    "viewport",
    "color-scheme",
    "supported-color-schemes",
    "x-apple-disable-message-reformatting",
    "format-detection",
  ]) {
    expect(html).toContain(meta);
  }
  for (const [table] of html.matchAll(/<table [^>]*>/g)) {
    expect(table).toContain('role="presentation" cellpadding="0" cellspacing="0" border="0"');
  }
  for (const [img] of html.matchAll(/<img [^>]*>/g)) expect(img).toMatch(/ alt="[^"]*"/);
  expect(html).not.toMatch(
    /<(script(?! type="application\/ld\+json">)|form|iframe)|position:|flex|grid|margin:-/,
  );
  expect(html.match(/<style>/g)).toHaveLength(1);
  expect(html.indexOf("</style>") - html.indexOf("<style>")).toBeLessThan(16_000);
  expect(html.match(/<!--\[if mso\]>/g)?.length).toBe(html.match(/<!\[endif\]-->/g)?.length);
  expect(html).toContain('src="https://septima.example/pictures/x.png"');
  expect(html).not.toContain("data-node");
  const preheader = html.indexOf("Start on a windowsill at home");
  expect(preheader).toBeGreaterThan(0);
  expect(preheader).toBeLessThan(html.indexOf('role="article"'));
});

test("columns wrap without media queries: inline blocks whose widths fit", () => {
  const { html } = personalise(bound, reader({}));
  const [first, second] = [
    ...html.matchAll(/class="col(?: apart)?" style="display:inline-block;width:100%;max-width:(\d+)px/g),
  ].map((match) => Number(match[1]));
  expect(first + second).toBeLessThanOrEqual(600);
});

test("values are escaped, and a hostile name stays text", () => {
  const name = `<img src=x onerror=alert(1)>`;
  const { html, subject, text } = personalise(bound, reader({ first_name: name, branch: `"'&` }));
  expect(html).not.toContain("<img src=x");
  expect(html).toContain("&lt;img src=x onerror=alert(1)&gt;");
  expect(html).toContain("&quot;&#39;&amp;");
  expect(subject).toBe(`${name}, hold your beans`);
  expect(text).toContain(name);
});

test("live articles show their words escaped and shortened", () => {
  const { html, text } = personalise(bound, reader({}));
  expect(html).toContain("Article &lt;1&gt; &amp; more");
  expect(html).not.toContain("Article <1>");
  expect(text).toContain("Article <1> & more\n");
  expect(text).toMatch(/Words about it[^\n]*…/);
});

test("no tag is left unfilled", () => {
  for (const part of Object.values(personalise(bound, reader({}))))
    expect(part.replace(/<style>.*?<\/style>/, "")).not.toMatch(/\{\{|\}\}|undefined|null|‹|›/);
});

test("the canvas in pieces shows the same words as the message", () => {
  const someone = reader({ zone: "cool", first_name: "Ines" });
  const { html } = personalise(bound, someone);
  expect(canvasBody(email, SAMPLE_OPTIONS, world, someone)).toBe(messageBody(html));
});

/** A message of one column of blocks, as a reader of such a name gets it. */
function messageOf(blocks: Block[], more: Partial<Email> = {}, fields: Record<string, unknown> = {}) {
  const own = parseEmail({
    ...email,
    ...more,
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  });
  const contact = { id: 1, email: "a@mail.example", fields, lists: [] };
  const given = bind(compile(own, SAMPLE_OPTIONS), world);
  return personalise(given, readerOf(contact, "en", previewAddresses("https://s.example")));
}

test("the title of the document is text alone, whatever the subject has", () => {
  const subject: Inline[] = [
    { type: "text", text: "Sow <now> & ", marks: [{ type: "bold" }] },
    { type: "mergeTag", attrs: { field: "first_name", fallback: "", format: "asIs" } },
  ];
  const { html } = messageOf([], { envelope: { ...email.envelope, subject } }, { first_name: "שרה <b>" });
  const [, title] = /<title>(.*?)<\/title>/s.exec(html)!;
  expect(title).toBe("Sow &lt;now&gt; &amp; שרה &lt;b&gt;");
});

test("a design whose keys stand in another order, as a database gives it back, is the same program", () => {
  const turned = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(turned)
      : typeof value === "object" && value !== null
        ? Object.fromEntries(
            Object.entries(value)
              .reverse()
              .map(([key, it]) => [key, turned(it)]),
          )
        : value;
  const one = compile(email, SAMPLE_OPTIONS);
  const other = compile(turned(email) as typeof email, SAMPLE_OPTIONS);
  expect(JSON.parse(JSON.stringify(other))).toEqual(JSON.parse(JSON.stringify(one)));
  // Rules of both orders in one design are still the same rules.
  const rules = (design: typeof email) => compile(design, SAMPLE_OPTIONS).pool.rules.length;
  const twice = {
    ...email,
    sections: [...email.sections, turned(email.sections)].flat() as typeof email.sections,
  };
  expect(rules(twice)).toBe(one.pool.rules.length);
  expect(one.pool.rules.length).toBeGreaterThan(1);
});

test("spaces in an address are encoded, those of its tags are not", () => {
  const button = (href: string) => ({ ...createBlock("button", "b"), href }) as Block;
  const hrefIn = (href: string, fields = {}) =>
    /href="(https:[^"]*shop[^"]*)"/.exec(messageOf([button(href)], {}, fields).html)?.[1];
  expect(hrefIn("https://shop.example/my page?a=b c")).toBe("https://shop.example/my%20page?a=b%20c");
  expect(hrefIn("https://shop.example/a b?n={$first_name else=|no body|}")).toBe(
    "https://shop.example/a%20b?n=no%20body",
  );
});

test("outer tables say their width as a style, too, and a countdown is never wider than its column", () => {
  const { html } = messageOf([{ ...createBlock("countdown", "c"), until: "2027-01-01T10:00" } as Block]);
  const [first] = html.slice(html.indexOf("<body")).match(/<table [^>]*>/g)!;
  expect(first).toMatch(/style="width:100%;/);
  const narrow = parseEmail({
    ...email,
    sections: [
      {
        id: "s",
        rows: [
          {
            id: "r",
            columns: [1, 2, 3, 4, 5, 6].map((at) => ({
              id: `c${at}`,
              width: 100 / 6,
              blocks: [{ ...createBlock("countdown", `k${at}`), until: "2027-01-01T10:00" }],
            })),
          },
        ],
      },
    ],
  });
  const message = personalise(bind(compile(narrow, SAMPLE_OPTIONS), world), reader({}));
  const widths = [...message.html.matchAll(/clock\/[^>]*width="(\d+)"/g)].map(([, width]) => Number(width));
  expect(widths).toHaveLength(6);
  for (const width of widths) {
    expect(width).toBeGreaterThan(0);
    expect(width).toBeLessThan(110);
  }
});
