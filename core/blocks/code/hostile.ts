/**
 * HTML that somebody might paste into a code block, innocently or not: what it tries, and what the note about it must
 * say. Tried on the cleaner itself, on the canvas, in the preview and in the sent message.
 */
export const HOSTILE_HTML: readonly { what: string; html: string; noted: RegExp }[] = [
  { what: "a script", html: "<p>a</p><script>window.harmed = 1</script>", noted: /<script>/ },
  { what: "a script without an end", html: "<p>a</p><script>window.harmed = 1", noted: /<script>/ },
  { what: "a script in capitals", html: "<SCRIPT SRC=https://x.example/x.js></SCRIPT>", noted: /<script>/ },
  {
    what: "a script split in two",
    html: "<scr<script>ipt>window.harmed = 1</scr</script>ipt>",
    noted: /<script>|<scr/,
  },
  {
    what: "an event handler",
    html: '<img src="https://x.example/x.png" onerror="window.harmed = 1">',
    noted: /event handlers/,
  },
  { what: "a handler without quotes", html: "<img src=x onerror=window.harmed=1>", noted: /event handlers/ },
  {
    what: "a handler behind a slash",
    html: '<img/src="x"/onerror="window.harmed = 1">',
    noted: /event handlers/,
  },
  {
    what: "a handler on the body",
    html: '<body onload="window.harmed = 1"><p>a</p></body>',
    noted: /event handlers/,
  },
  { what: "a script address", html: '<a href="javascript:window.harmed = 1">a</a>', noted: /addresses/ },
  {
    what: "a script address with a tab",
    html: '<a href="java\tscript:window.harmed = 1">a</a>',
    noted: /addresses/,
  },
  {
    what: "a script address in entities",
    html: '<a href="&#106;avascript&colon;window.harmed=1">a</a>',
    noted: /addresses/,
  },
  {
    what: "a script address after a control sign",
    html: '<a href="\u0001javascript:window.harmed=1">a</a>',
    noted: /addresses/,
  },
  {
    what: "a data address",
    html: '<a href="data:text/html,<script>window.harmed=1</script>">a</a>',
    noted: /addresses/,
  },
  { what: "a data picture", html: '<img src="data:image/svg+xml,<svg onload=alert(1)>">', noted: /pictures/ },
  {
    what: "a form",
    html: '<form action="https://x.example/"><input name="password"><button>Log in</button></form>',
    noted: /<form>.*<input>.*<button>/,
  },
  { what: "a style sheet", html: "<style>body{display:none}</style><p>a</p>", noted: /<style>/ },
  {
    what: "a style sheet broken out of",
    html: "<style></style><img src=x onerror=window.harmed=1></style>",
    noted: /<style>.*event handlers/,
  },
  {
    what: "a style that covers the page",
    html: '<div style="position:fixed;top:0;left:0;width:100%;height:100%">a</div>',
    noted: /position/,
  },
  {
    what: "a style with a script",
    html: '<div style="background:url(javascript:window.harmed=1)">a</div>',
    noted: /background/,
  },
  {
    what: "a style with an expression",
    html: '<div style="width:expression(window.harmed=1)">a</div>',
    noted: /width/,
  },
  {
    what: "a style with escapes",
    html: '<div style="background:\\75rl(javascript:x)">a</div>',
    noted: /background/,
  },
  {
    what: "a style that fetches a style",
    html: '<div style="color:red;@import url(https://x.example/x.css)">a</div>',
    noted: /style/,
  },
  {
    what: "a style that pulls itself over others",
    html: '<div style="margin-top:-900px">a</div>',
    noted: /margin-top/,
  },
  {
    what: "a style that ends its attribute",
    html: `<div style='color:red" onclick="window.harmed=1'>a</div>`,
    noted: /^$/,
  },
  {
    what: "a meta refresh",
    html: '<meta http-equiv="refresh" content="0;url=https://x.example/">',
    noted: /<meta>/,
  },
  {
    what: "a base",
    html: '<base href="https://x.example/"><a href="https://a.example/">a</a>',
    noted: /<base>/,
  },
  { what: "a frame", html: '<iframe srcdoc="<script>window.harmed=1</script>"></iframe>', noted: /<iframe>/ },
  {
    what: "an object",
    html: '<object data="https://x.example/x"></object><embed src="https://x.example/x">',
    noted: /<object>.*<embed>/,
  },
  {
    what: "a drawing with a script",
    html: "<svg><script>window.harmed=1</script></svg><svg onload=window.harmed=1>",
    noted: /<svg>/,
  },
  {
    what: "a formula that hides markup",
    html: "<math><mtext><table><mglyph><style><img src=x onerror=window.harmed=1>",
    noted: /<math>/,
  },
  {
    what: "a template",
    html: "<template><img src=x onerror=window.harmed=1></template>",
    noted: /<template>/,
  },
  {
    what: "a comment that is not one",
    html: "<!--><img src=x onerror=window.harmed=1>-->",
    noted: /event handlers|comments/,
  },
  {
    what: "a conditional comment",
    html: "<!--[if mso]><script>window.harmed=1</script><![endif]--><p>a</p>",
    noted: /comments/,
  },
  { what: "a text area left open", html: "<textarea><p>swallows the rest", noted: /<textarea>/ },
  { what: "plain text to the end", html: "<plaintext>swallows the rest", noted: /<plaintext>/ },
  { what: "cells without a table", html: "</td></tr></table><tr><td>out</td></tr>", noted: /no table/ },
  {
    what: "a table right inside a table",
    html: "<table><table></table></table></table><p>a</p>",
    noted: /no table/,
  },
  {
    what: "ends of what was never begun",
    html: "</div></td></tr></table></body></html><p>a</p>",
    noted: /^$/,
  },
  {
    what: "marks of the canvas",
    html: '<div id="x" class="only-phone" data-node="n1">a</div>',
    noted: /class and id/,
  },
  {
    what: "a picture set",
    html: '<img src="https://x.example/a.png" srcset="javascript:x 2x">',
    noted: /srcset/,
  },
];
