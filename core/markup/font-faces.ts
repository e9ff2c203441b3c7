import type { WebFont } from "../email";
import { quotable } from "./html";

/**
 * Says where the files of web fonts are; a browser fetches those that something is set in.
 * @param origin where they are; nothing for a page of the program, which takes all of them from itself
 */
export function fontFaces(fonts: readonly WebFont[], origin?: string): string {
  return fonts
    .map(({ family, file, address, weights: [least, greatest] }) => {
      const source = (origin !== undefined && address) || `${origin ?? ""}/fonts/${file}.woff2`;
      const weights = least === greatest ? least : `${least} ${greatest}`;
      return `@font-face{font-family:"${family}";src:url(${quotable(source)}) format("woff2");font-weight:${weights};font-display:swap}`;
    })
    .join("");
}
