import { type CodeBlock, cleanCode } from "../blocks";
import { type Block, type Brand, blocksOf, type Email, type Theme, webFontsOf } from "../email";
import { fontFaces, roleCss, STACKED, toneCss } from "../markup";
import { PHONE_INSET } from "../properties";
import { phoneCss, tallCss } from "./phone";

/** What columns need at their feet when they stand below each other is inline, for where no style block is read. */
const BASE = `body{margin:0;padding:0;-webkit-text-size-adjust:100%;text-size-adjust:100%}table{border-collapse:separate}img{border:0;outline:none;text-decoration:none}.apart{padding-bottom:0!important}`;

const PHONE = `.col,.fluid{max-width:100%!important}.apart{padding-bottom:${STACKED}px!important}.inset{padding-left:${PHONE_INSET}px!important;padding-right:${PHONE_INSET}px!important}.hide-phone{display:none!important}.only-phone{display:table-row!important}div.only-phone,table.only-phone{display:block!important}`;

function darkCss(theme: Theme, tones: Iterable<string>, logo: string): string {
  return roleCss(theme) + toneCss(tones) + logoCss(logo);
}

/** The logo for dark grounds in the place of the other, where a mail program knows how. @param address empty without one */
function logoCss(address: string): string {
  if (address === "") return "";
  const quoted = encodeURI(address).replace(/['()]/g, (sign) => `%${sign.charCodeAt(0).toString(16)}`);
  return `.day-logo{content:url("${quoted}")}`;
}

/** Headings that are smaller on phones. */
function headingCss({ headings }: Theme): string {
  return ([1, 2, 3] as const)
    .map((look) => {
      const { phone, line, size, tracking } = headings[`h${look}`];
      if (!phone || phone >= size) return "";
      const letters = tracking ? `;letter-spacing:${Math.round(phone * tracking) / 1000}px!important` : "";
      return `.look-${look}{font-size:${phone}px!important;line-height:${line}!important${letters}}`;
    })
    .join("");
}

/**
 * What stands in the head for the theme's web fonts: a style block of its own, so that a mail program that stumbles
 * over it keeps the other, and for the word-processor engine what it takes in their place.
 * @param origin where the files are
 */
export function fontsHtml({ fonts }: Theme, brand: Brand, origin: string): string {
  const used = webFontsOf([fonts.body, fonts.heading], brand.fonts);
  if (used.length === 0) return "";
  const instead = used.map(
    (font) => `@font-face{font-family:"${font.family}";mso-font-alt:"${font.instead}"}`,
  );
  return `<style>${fontFaces(used, origin)}</style><!--[if mso]><style>${instead.join("")}</style><![endif]-->`;
}

/** What letters that are kept whole need of the style block. */
function codeCss(email: Email): { phones: string; rules: string } {
  const blocks = blocksOf(email).filter((block): block is Block & CodeBlock => block.type === "code");
  const all = blocks.map(cleanCode);
  return { phones: all.map(({ phones }) => phones).join(""), rules: all.map(({ rules }) => rules).join("") };
}

/**
 * The style block of a message: small, and an enhancement only.
 * @param tones the names of dark colours that are not the theme's
 * @param logo the address of the logo for dark grounds; empty without one
 */
export function messageCss(theme: Theme, email: Email, tones: Iterable<string>, logo: string): string {
  const own = codeCss(email);
  return `${BASE}@media (max-width:${theme.width - 1}px){${PHONE}${headingCss(theme)}${phoneCss(email)}${tallCss(email, theme, "vw")}${own.phones}}${own.rules}@media (prefers-color-scheme:dark){${darkCss(theme, tones, logo)}}`;
}

/** The same rules for a canvas of a chosen width and scheme, where media queries would look at the window. */
export function canvasCss(
  theme: Theme,
  email: Email,
  tones: Iterable<string>,
  how: { narrow: boolean; dark: boolean; logo: string },
): string {
  return `${BASE}${how.narrow ? PHONE + headingCss(theme) + phoneCss(email) + tallCss(email, theme, "cqw") : ""}${how.dark ? darkCss(theme, tones, how.logo) : ""}`;
}
