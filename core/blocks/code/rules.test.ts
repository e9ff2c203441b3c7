import { describe, expect, test } from "vitest";
import { cleanCode, createBlock } from "..";
import { cleanHtml } from "./clean";
import { ownRules, scopeOf } from "./rules";

const rules = (css: string) => {
  const noted: string[] = [];
  const found = ownRules(css, "own-1", (what) => noted.push(what));
  return { ...found, noted };
};

describe("rules of a letter that is kept whole", () => {
  test("for phones and for dark stay, each for the block alone, with the classes it has", () => {
    const { css, classes, narrow } = rules(
      `p{color:red} @media only screen and (max-width: 480px){ .col, table.wrap > td.x { width:100% !important; } body{ margin:0 } } @media (prefers-color-scheme: dark){ .paper{background:#111} }`,
    );
    expect(css).toBe(
      "@media only screen and (max-width: 480px){.own-1 .o-col,.own-1 table.o-wrap > td.o-x{width:100% !important}.own-1{margin:0}}@media (prefers-color-scheme: dark){.own-1 .o-paper{background:#111}}",
    );
    expect([...classes]).toEqual(["col", "wrap", "x", "paper"]);
    expect(narrow).toBe(true);
  });

  test.each([
    ["a picture from elsewhere by script", "@media (max-width:9px){.a{background:url(javascript:alert(1))}}"],
    ["an end of the style block", "@media (max-width:9px){.a{color:red}</style><script>alert(1)</script>}"],
    ["a rule for all of the message", "@media (max-width:9px){.a,:root,html *{position:fixed}}"],
    ["an import", "@import url(https://x.example/a.css);@media (max-width:9px){@import 'x';.a{color:red}}"],
    ["a selector that closes", "@media (max-width:9px){.a}{color:red}} body{display:none}"],
    ["a condition that closes", "@media (max-width:9px){}}*{color:red"],
    ["an expression", "@media (max-width:9px){.a{width:expression(alert(1))}}"],
    [
      "an attribute selector that tells",
      '@media (max-width:9px){input[value^="a"]{background:url(https://x.example/a)}}',
    ],
    ["braces without end", "@media (max-width:9px){.a{".repeat(200)],
  ])("never carry anything else into the message: %s", (_, css) => {
    const { css: written } = rules(css);
    expect(written).not.toMatch(/<|javascript|expression|@import|position|value\^|:root|https/);
    for (const [, selectors] of written.replace(/@media [^{]*\{/g, "").matchAll(/(?:^|\})([^{}]+)\{/g))
      for (const selector of selectors.split(",")) expect(selector).toMatch(/^\.own-1( |$)/);
    expect(written.split("{").length).toBe(written.split("}").length);
  });

  test("that are too long for mail programs are left out and noted", () => {
    const { css, noted } = rules(`@media (max-width:9px){${".abc{color:red}".repeat(2000)}}`);
    expect(css).toBe("");
    expect(noted.join()).toContain("too long");
  });
});

test("classes that rules speak of stay under names of their own, all others go", () => {
  const block = {
    ...createBlock("code", "k 1"),
    html: '<table class="wrap x"><tr><td class="col other">Words</td></tr></table>',
    sheets: "@media (max-width:400px){.wrap,.col{width:100%}}",
  };
  const { html, rules: css, phones, removed } = cleanCode(block);
  expect(html).toBe('<table class="o-wrap"><tr><td class="o-col">Words</td></tr></table>');
  expect(css).toContain(`.${scopeOf("k 1")} .o-wrap`);
  expect(scopeOf("k 1")).toBe("own-k1");
  expect(phones).toContain(".own-k1 table{width:100%!important");
  expect(removed).toEqual([]);
});

const BUTTON =
  '<!--[if mso]><v:roundrect href="https://a.example/x" style="height:40px;v-text-anchor:middle;width:150px;" arcsize="20%" fillcolor="#c2410c"><w:anchorlock></w:anchorlock><center style="color:#ffffff">Buy it</center></v:roundrect><![endif]-->';

describe("what is for the word-processor engine", () => {
  test("stays where it draws a button; the words beside it are said once", () => {
    const { html, text, removed } = cleanHtml(
      `<div>${BUTTON.replace("<w:anchorlock></w:anchorlock>", "<w:anchorlock/>")}<a href="https://a.example/x" style="mso-hide:all">Buy it</a></div>`,
    );
    expect(html).toBe(`<div>${BUTTON}<a href="https://a.example/x" style="mso-hide:all">Buy it</a></div>`);
    expect(text).toBe("Buy it (https://a.example/x)");
    expect(removed).toEqual([]);
    expect(cleanHtml(html).html).toBe(html);
  });

  test("and what all others show in its place stays paired", () => {
    const pair = '<!--[if !mso]><!--><a href="https://a.example/x">Buy it</a><!--<![endif]-->';
    expect(cleanHtml(`<p>${pair}</p>`).html).toBe(`<p>${pair}</p>`);
    expect(cleanHtml("<p><!--[if !mso]><!-->Words</p>").html).toBe("<p>Words</p>");
  });

  test.each([
    ["a script", "<!--[if mso]><v:rect><script>alert(1)</script></v:rect><![endif]-->"],
    ["an end of the comment", "<!--[if mso]><v:rect>--><img src=x onerror=alert(1)></v:rect><![endif]-->"],
    ["a cell that is not closed", "<!--[if mso]><table><tr><td><![endif]-->"],
    ["a drawing that is not closed", "<!--[if gte mso 9]><v:rect><v:textbox><![endif]-->"],
    [
      "an address that acts",
      '<!--[if mso]><v:rect href="javascript:alert(1)" onclick="x()">a</v:rect><![endif]-->',
    ],
    ["a condition of its own", "<!--[if IE]><v:rect>a</v:rect><![endif]-->"],
  ])("never holds %s", (_, html) => {
    const { html: clean } = cleanHtml(html);
    expect(clean).not.toMatch(/script|onerror|onclick|javascript|<td|\[if IE|<!--(?!\[if mso\]><v:rect)/i);
    expect(cleanHtml(clean).html).toBe(clean);
  });
});
