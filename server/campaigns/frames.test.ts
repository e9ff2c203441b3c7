import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Email } from "~/core/email";
import { itemOf } from "~/core/items";
import { sampleEmail } from "~/core/render/sample";
import type { Septima } from "../septima";
import { openWorld } from "../test-world";
import { framed, framePolicy, messagePolicy, showsForeignPictures } from "./frames";
import { messageFor } from "./rendering";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
afterAll(() => close());

/** An email with a picture block by address, and the same and another picture in HTML written by hand. */
function mixed(): Email {
  const email = sampleEmail(1);
  email.sections[0].rows[0].columns[0].blocks = [
    {
      ...createBlock("image", "i"),
      src: "https://press.example/a;b,c.jpg?width=600",
      alt: "Beans",
      decorative: false,
    },
    { ...createBlock("code", "c"), html: '<img src="https://spy.example/x.gif"><p>Words</p>' },
  ];
  return email;
}
const pictures = (policy: string) => /img-src ([^;]*)/.exec(policy)![1].split(" ");

test("a frame may fetch our pictures and those that blocks show, not what HTML of one’s own names", async () => {
  const email = mixed();
  const reader = { id: 1, email: "a@mail.example", fields: {}, lists: [] };
  const { html } = await messageFor(septima, email, reader);
  expect(html).toContain("https://spy.example/x.gif");
  const policy = framePolicy(septima, email, [], html);
  expect(pictures(policy)).toEqual([
    "https://septima.example",
    "https://press.example/a%3Bb%2Cc.jpg",
    "data:",
  ]);
  expect(policy).toContain("default-src 'none'");
  // An address that a block names and this reader does not get is not fetched either.
  expect(pictures(framePolicy(septima, email, [], "<p>Nothing</p>"))).toEqual([
    "https://septima.example",
    "data:",
  ]);
});

test("pictures of a source are fetched where they are shown", async () => {
  await septima.db.query(
    `insert into sources (id, name, kind, address, created_at) values
     ('s', 'S', 'feed', 'https://feed.example', now())`,
  );
  const one = itemOf({
    id: "1",
    title: "One",
    link: "https://feed.example/1",
    picture: "https://feed.example/1.jpg",
  });
  await septima.db.query(
    `insert into items (source, id, place, item, words, title, category, seen_first)
     values ('s', '1', 0, $1::jsonb, '', 'One', '{}', now())`,
    [JSON.stringify(one)],
  );
  const email = mixed();
  email.sections[0].rows[0].columns[0].blocks = [{ ...createBlock("picks", "a"), source: "s" }];
  const { html } = await messageFor(septima, email, {
    id: 1,
    email: "a@mail.example",
    fields: {},
    lists: [],
  });
  expect(pictures(framePolicy(septima, email, [one], html))).toContain("https://feed.example/1.jpg");
});

test("in a small picture, what may not be fetched is not named either", async () => {
  const email = mixed();
  const [, code] = email.sections[0].rows[0].columns[0].blocks;
  Object.assign(code, {
    html: '<table><tr><td background="https://spy.example/b.gif" style="background-image:url(https://spy.example/c.gif)"><img src="https://spy.example/x.gif?a=1&amp;b=2" alt="Spy"><img src="https://press.example.evil.test/"></td></tr></table><a href="https://spy.example/page">Words</a>',
  });
  const reader = { id: 1, email: "a@mail.example", fields: {}, lists: [] };
  const { html } = await messageFor(septima, email, reader);
  const shown = framed(septima, email, [], html).html;
  expect(shown.replace('href="https://spy.example/page"', "")).not.toMatch(/spy\.example|evil/);
  expect(shown).toContain('alt="Spy"');
  expect(shown).toContain('src="https://press.example/a;b,c.jpg?width=600"');
  expect(shown).toContain(">Words</a>");
});

test("of a message that is only bytes, our own pictures, or all when asked for", () => {
  expect(pictures(messagePolicy(septima, "ours"))).toEqual(["https://septima.example", "data:"]);
  expect(pictures(messagePolicy(septima, "all"))).toEqual(["*", "data:"]);
});

test.each([
  ['<img src="https://septima.example/x.png">', false],
  ['<img src="https://b.example/x.png">', true],
  ['<img src="https://septima.example.evil.test/x.png">', true],
  ['<td background="http://b.example/x.png">', true],
  ["<td style=\"background-image:url('https://b.example/x.png')\">", true],
  ['<a href="https://b.example/">', false],
  ['<img src="data:image/png;base64,">', false],
])("%s shows pictures from elsewhere: %s", (html, foreign) => {
  expect(showsForeignPictures(septima, html)).toBe(foreign);
});
