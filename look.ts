import { writeFile } from "node:fs/promises";
import sharp from "sharp";
import { openBrowser } from "./e2e/browser";
import { drawing } from "./core/drawings";
import { resolveTheme } from "./core/email";
import { bind, personalise, previewAddresses, readerOf } from "./core/personal";
import { compile } from "./core/render";
import { TEMPLATES, templateEmail } from "./core/templates";
import { readFileSync } from "node:fs";

const [, , from, to, theme, width = "690", dark = ""] = process.argv;
const brand = { name: "Tansy Row", address: "3 Nursery Lane, Alderwick AL4 2TR", website: "https://tansyrow.example", senders: [{ name: "T", address: "a@b.example" }] };
const page = await openBrowser("");
const cells: string[] = [];
const fonts = new Map<string, string>();
for (const t of TEMPLATES.slice(Number(from), Number(to))) {
  const email = { ...templateEmail(t, "feed"), ...(theme && theme !== "own" && { theme }) };
  const program = compile(email, { theme: resolveTheme(email.theme), brand, origin: "" });
  const bound = bind(program, { content: new Map(), audience: { segments: new Map(), today: "2026-11-25" } as never });
  const contact = { id: 1, email: "i@x.example", fields: { first_name: "Ines", branch: "Alderwick" }, lists: [] };
  let { html } = personalise(bound, readerOf(contact as never, "en", previewAddresses("http://x.example")));
  for (const [, name] of html.matchAll(/\/drawings\/([a-z-]+)-solid\.png/g)) {
    const data = (await sharp(Buffer.from(drawing(name)!.svg)).png({ palette: true }).toBuffer()).toString("base64");
    html = html.replaceAll(`/drawings/${name}-solid.png`, `data:image/png;base64,${data}`);
  }
  for (const [, f] of html.matchAll(/\/fonts\/([a-z-]+)\.woff2/g)) html = html.replaceAll(`/fonts/${f}.woff2`, `data:font/woff2;base64,${readFileSync(`node_modules/@fontsource-variable/${f}/files/${f}-latin-wght-normal.woff2`).toString("base64")}`);
  html = html.replace(/url\(\/?fonts\/([^)]+)\)|url\('\/fonts\/([^']+)'\)/g, (all, a, b) => { const f = a ?? b; return all; });
  if (dark) html = html.replaceAll("(prefers-color-scheme: dark)", "(min-width:1px)").replaceAll("(prefers-color-scheme:dark)", "(min-width:1px)");
  cells.push(`<div style="position:relative"><b style="font:13px sans-serif;display:block">${t.id} · ${email.theme}</b><iframe srcdoc="${html.replaceAll("&", "&amp;").replaceAll('"', "&quot;")}" style="width:${width}px;height:${width === "690" ? 1280 : 1500}px;border:0;background:#fff;zoom:${width === "690" ? 0.34 : 0.5}"></iframe></div>`);
}
await writeFile("/tmp/look.html", `<body style="margin:8px;background:#888;display:flex;gap:8px;flex-wrap:wrap">${cells.join("")}</body>`);
await page.driver.get("file:///tmp/look.html");
await page.driver.manage().window().setRect({ width: 1300, height: 1130 });
await new Promise((r) => setTimeout(r, 1500));
await writeFile("/tmp/look.png", Buffer.from(await page.driver.takeScreenshot(), "base64"));
await page.driver.quit();
