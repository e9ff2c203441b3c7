import { Parser } from "htmlparser2";
import { describe, expect, test } from "vitest";
import { cleanHtml } from "./clean";
import { HOSTILE_HTML } from "./hostile";

describe.each(HOSTILE_HTML)("$what", ({ html, noted }) => {
  const clean = cleanHtml(html);

  test("nothing of it is left that could act", () => {
    expect(clean.html).not.toMatch(
      /<(script|style|meta|base|link|form|input|button|iframe|object|embed|svg|math|template|textarea|select)/i,
    );
    const parser = new Parser({
      onattribute(name, value) {
        expect(name).not.toMatch(/^on|^(action|formaction|srcdoc|http-equiv|srcset|id|class)$|^data-/i);
        if (name === "href") expect(value).toMatch(/^(https?:\/\/|mailto:|tel:|#)/i);
        if (name === "src" || name === "background")
          expect(value).toMatch(/^(https?:\/\/|\/pictures\/|\/glyphs\/)/);
        if (name === "style")
          expect(value).not.toMatch(
            /javascript|expression|position\s*:|behavior|@import|<|\\|url\((?!["']?(https?:|\/pictures\/))/i,
          );
      },
    });
    parser.end(clean.html);
  });

  test("it is noted", () => {
    expect(clean.removed.map((it) => it.what).join("; ")).toMatch(noted);
  });

  test("it is balanced, and cleaning it again changes nothing", () => {
    const open: string[] = [];
    const parser = new Parser({
      onopentagname: (name) => void (["br", "img", "hr", "wbr"].includes(name) || open.push(name)),
      onclosetag(name, implied) {
        if (!["br", "img", "hr", "wbr"].includes(name)) expect([implied, open.pop()]).toEqual([false, name]);
      },
    });
    parser.end(clean.html);
    expect(open).toEqual([]);
    expect(cleanHtml(clean.html).html).toBe(clean.html);
  });
});

test("what an email is made of comes through as it is", () => {
  const html =
    '<table width="100%" cellpadding="0" cellspacing="0" border="0" role="presentation"><tbody><tr><td align="center" bgcolor="#ffffff" style="padding:8px 12px;font-family:Georgia, \'Times New Roman\', serif"><a href="https://a.example/?a=1&amp;b=2" style="color:#112233">Words</a><br><img src="https://a.example/p.png" alt="A leaf" width="40"></td></tr></tbody></table>'.replaceAll(
      "'",
      "&#39;",
    );
  expect(cleanHtml(html)).toEqual({
    html,
    text: "Words (https://a.example/?a=1&b=2)\n[A leaf]",
    removed: [],
  });
});

test("its words become text, and pictures without words get an empty alternative", () => {
  const { html, text } = cleanHtml(
    '<h2>Title</h2><ul><li>One</li><li>Two</li></ul><img src="https://a.example/x.png">',
  );
  expect(html).toContain('<img src="https://a.example/x.png" alt="">');
  expect(text).toBe("Title\n\nOne\n\nTwo");
});
