import type { Email, Theme } from "../email";
import { phoneCss } from "./phone";

const BASE = `body{margin:0;padding:0;-webkit-text-size-adjust:100%;text-size-adjust:100%}table{border-collapse:separate}img{border:0;outline:none;text-decoration:none}p,h1,h2,h3{overflow-wrap:break-word}`;

const PHONE = `.col{max-width:100%!important}.colpad{padding:0!important}.col+.col>.colpad{padding-top:16px!important}.inset{padding-left:20px!important;padding-right:20px!important}.fluid{max-width:100%!important}.hide-phone{display:none!important}.only-phone{display:table-row!important}div.only-phone,table.only-phone{display:block!important}`;

function darkCss({ dark }: Theme): string {
  return [
    `.d-table{background-color:${dark.table}!important}`,
    `.d-paper{background-color:${dark.paper}!important}`,
    `.d-text{color:${dark.text}!important}`,
    `.d-soft,.d-softall div,.d-softall p,.d-softall a{color:${dark.soft}!important}`,
    `.d-head{color:${dark.heading}!important}`,
    `.d-link{color:${dark.link}!important}`,
    `.d-face{background-color:${dark.accent}!important}`,
    `.d-onface{color:${dark.onAccent}!important}`,
    ".d-glyph{filter:brightness(0) invert(.9)!important}",
    `.d-line{border-color:${dark.line}!important}`,
  ].join("");
}

/** The style block of a message: small, and an enhancement only. */
export function messageCss(theme: Theme, email: Email): string {
  return `${BASE}@media (max-width:${theme.width - 1}px){${PHONE}${phoneCss(email)}}@media (prefers-color-scheme:dark){${darkCss(theme)}}`;
}

/** The same rules for a canvas of a chosen width and scheme, where media queries would look at the window. */
export function canvasCss(theme: Theme, email: Email, how: { narrow: boolean; dark: boolean }): string {
  return `${BASE}${how.narrow ? PHONE + phoneCss(email) : ""}${how.dark ? darkCss(theme) : ""}`;
}
