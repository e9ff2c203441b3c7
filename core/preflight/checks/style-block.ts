import type { Email } from "../../email";
import { compile } from "../../render";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

/** Large webmail drops a style block of more than 16 KB whole: then phones and dark mode get nothing of their own. */
const STYLE_BYTES = { look: 12 * 1024, stops: 16 * 1024 };

function styleBlock(email: Email, { brand, theme }: Circumstances): Finding[] {
  const { styleBytes } = compile(email, { theme, brand, origin: "" });
  if (styleBytes <= STYLE_BYTES.look) return [];
  const weight = styleBytes > STYLE_BYTES.stops ? "stops" : "look";
  const text = `What is different on phones and in dark takes ${Math.round(styleBytes / 1024)} KB; mail programs drop it from 16 KB on. Use fewer different values on phones, and fewer colours.`;
  return [{ weight, text }];
}

export const styleBlockCheck: Check = {
  name: "style-block",
  group: "law",
  label: "the size of the style block",
  why: "Large webmail drops one that is too large, and with it all that is different on phones and in dark.",
  design: styleBlock,
};
