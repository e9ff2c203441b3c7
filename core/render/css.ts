import type { Email, Theme } from "../email";
import { roleCss, STACKED, toneCss } from "../markup";
import { phoneCss } from "./phone";

/** What columns need at their feet when they stand below each other is inline, for where no style block is read. */
const BASE = `body{margin:0;padding:0;-webkit-text-size-adjust:100%;text-size-adjust:100%}table{border-collapse:separate}img{border:0;outline:none;text-decoration:none}.apart{padding-bottom:0!important}`;

const PHONE = `.col,.fluid{max-width:100%!important}.apart{padding-bottom:${STACKED}px!important}.inset{padding-left:20px!important;padding-right:20px!important}.hide-phone{display:none!important}.only-phone{display:table-row!important}div.only-phone,table.only-phone{display:block!important}`;

function darkCss(theme: Theme, tones: Iterable<string>): string {
  return roleCss(theme) + toneCss(tones);
}

/**
 * The style block of a message: small, and an enhancement only.
 * @param tones the names of dark colours that are not the theme's
 */
export function messageCss(theme: Theme, email: Email, tones: Iterable<string>): string {
  return `${BASE}@media (max-width:${theme.width - 1}px){${PHONE}${phoneCss(email)}}@media (prefers-color-scheme:dark){${darkCss(theme, tones)}}`;
}

/** The same rules for a canvas of a chosen width and scheme, where media queries would look at the window. */
export function canvasCss(
  theme: Theme,
  email: Email,
  tones: Iterable<string>,
  how: { narrow: boolean; dark: boolean },
): string {
  return `${BASE}${how.narrow ? PHONE + phoneCss(email) : ""}${how.dark ? darkCss(theme, tones) : ""}`;
}
