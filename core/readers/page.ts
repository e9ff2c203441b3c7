import { type Brand, brandFont, type Theme, WEB_FONTS } from "../email";
import { fontFaces } from "../markup";
import { absolute, directionOf, escapeHtml } from "../program";
import { put, type Tongue } from "./words";

/** What every page is made with. */
export interface PageContext extends Tongue {
  brand: Brand;
  theme: Theme;
}

/** Words with what differs put in. @param values as markup, by name */
export const filled = (words: string, values: Readonly<Record<string, string>>): string =>
  put(escapeHtml(words), values);

/** An address or a name within words: it stands out, and breaks where it is too long. */
export const strong = (text: string): string => `<strong>${escapeHtml(text)}</strong>`;

export const paragraph = (markup: string): string => `<p>${markup}</p>`;

/** A button that sends its form. */
export const button = (words: string, look: "first" | "second" = "first", value = ""): string =>
  `<button class="${look}"${value === "" ? "" : ` name="intent" value="${value}"`}>${escapeHtml(words)}</button>`;

/** A form that sends to the page's own address. */
export const form = (...markup: string[]): string => `<form method="post">${markup.join("")}</form>`;

/** The colours of a page in light or dark, as properties of its style. */
function colours({ table, paper, text, soft, heading, accent, onAccent, line }: Theme["light"]): string {
  const named = { table, paper, text, soft, heading, accent, on: onAccent, line };
  return Object.entries(named)
    .map(([name, color]) => `--${name}:${color};`)
    .join("");
}

/** How a page looks: as letters in the theme do. */
function style(theme: Theme, brand: Brand): string {
  const { fonts, text, headings, button: press, shape } = theme;
  const used = [...(brand.fonts ?? []).map(brandFont), ...WEB_FONTS].filter(({ family }) =>
    `${fonts.body} ${fonts.heading}`.includes(family),
  );
  return `${fontFaces(used)}
:root{color-scheme:light dark;${colours(theme.light)}}
@media (prefers-color-scheme:dark){:root{${colours(theme.dark)}}}
*{box-sizing:border-box}
body{margin:0;padding:64px 16px;background:var(--table);color:var(--text);font:${text.size}px/${text.line} ${fonts.body}}
@media (max-width:480px){body{padding:16px}}
main{max-width:480px;margin:0 auto;padding:32px;background:var(--paper);border:1px solid var(--line);border-radius:${Math.max(4, Math.min(16, shape.box))}px}
@media (max-width:480px){main{padding:24px 20px}}
h1{margin:0 0 16px;color:var(--heading);font:${headings.h2.weight} 22px/1.25 ${fonts.heading};overflow-wrap:anywhere}
p{margin:0 0 16px;overflow-wrap:anywhere}
p.words{white-space:pre-line}
p.brand{color:var(--soft)}
p.brand img{display:block;max-width:100%;max-height:48px;width:auto;height:auto}
p.problem{border-inline-start:4px solid var(--accent);padding-inline-start:12px;color:var(--heading);font-weight:600}
@media (prefers-color-scheme:dark){p.lit img{padding:8px;border-radius:6px;background:${theme.light.paper}}}
form+form{margin-top:24px;padding-top:20px;border-top:1px solid var(--line)}
form>:last-child,main>:last-child{margin-bottom:0}
fieldset{margin:0 0 16px;padding:0;border:0}
legend{padding:0;margin:0 0 12px;overflow-wrap:anywhere}
label{display:block;margin:0 0 14px}
label.choice{display:flex;gap:12px;align-items:flex-start}
label.choice input{flex:none;width:20px;height:20px;margin:2px 0 0;accent-color:var(--accent)}
label.choice span{min-width:0;overflow-wrap:anywhere}
label small{display:block;font-size:inherit;color:var(--soft)}
label.field span{display:block;margin-bottom:4px;font-weight:600}
label.field input{width:100%;padding:10px 12px;border:1px solid var(--soft);border-radius:6px;background:var(--paper);color:var(--text);font:inherit}
button{padding:12px ${press.padX}px;border:1px solid var(--accent);border-radius:${press.radius}px;font:${press.weight} 16px/1.3 ${fonts.body};cursor:pointer;max-width:100%}
.scale{display:flex;flex-wrap:wrap;gap:8px}
button.first{background:var(--accent);color:var(--on)}
button.second{background:transparent;color:var(--heading);border-color:var(--soft)}
:focus-visible{outline:3px solid var(--heading);outline-offset:2px}`;
}

/** The brand at the head of a page; where it is dark, by its picture for dark grounds, or by the usual one on light paper. */
function head({ brand: { logo, logoDark, name } }: PageContext): string {
  if (!logo) return name === "" ? "" : `<p class="brand">${escapeHtml(name)}</p>`;
  const { src, width, height } = logo;
  const dark = logoDark
    ? `<source media="(prefers-color-scheme:dark)" srcset="${escapeHtml(absolute(logoDark.src, ""))}">`
    : "";
  const picture = `<img src="${escapeHtml(absolute(src, ""))}" width="${width}" height="${height}" alt="${escapeHtml(name)}">`;
  return `<p class="brand${logoDark ? "" : " lit"}"><picture>${dark}${picture}</picture></p>`;
}

/** A page whole. @param title plain words; they are its heading too @param body as markup */
export function page(context: PageContext, title: string, body: string): string {
  const { language, theme, brand } = context;
  return `<!doctype html>
<html lang="${language}" dir="${directionOf(language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex">
<title>${escapeHtml(brand.name === "" ? title : `${title} · ${brand.name}`)}</title>
<style>${style(theme, brand)}</style>
</head>
<body>
<main>
${head(context)}
<h1>${escapeHtml(title)}</h1>
${body}
</main>
</body>
</html>
`;
}

/** A page that says one thing: that a link does nothing, or that something did not work. */
export const messagePage = (context: PageContext, title: string, words: string): string =>
  page(context, title, paragraph(escapeHtml(words)));
