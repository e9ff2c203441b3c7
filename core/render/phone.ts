import { type Email, type Padding, type Phone, walk } from "../email";

/** The class under which a part's differences on phones stand in the style block. */
export function phoneClass(id: string): string {
  return `p-${id.replace(/[^A-Za-z0-9_-]/g, "_")}`;
}

const px = ({ top, right, bottom, left }: Padding) => `${top}px ${right}px ${bottom}px ${left}px`;
const MARGIN = { left: "0 auto 0 0", center: "0 auto", right: "0 0 0 auto" };

function rules(name: string, { padding, align, size, share }: Phone): string {
  const inside = (...elements: string[]) => elements.map((element) => `.${name} ${element}`).join(",");
  return [
    padding && `.${name}{padding:${px(padding)}!important}`,
    align &&
      `${inside("p", "h1", "h2", "h3", "div", "td", "th")}{text-align:${align}!important}` +
        `${inside("table[align]", "img")}{float:none!important;margin:${MARGIN[align]}!important}`,
    size &&
      `${inside("p", "h1", "h2", "h3", "div", "li", "td", "th", "a")}{font-size:${size}px!important;line-height:1.4!important}`,
    share && `${inside("img")}{width:${share}%!important;max-width:${share}%!important}`,
  ]
    .filter(Boolean)
    .join("");
}

/** What is different on phones in this email, as rules for its style block. */
export function phoneCss(email: Email): string {
  let css = "";
  for (const it of walk(email)) {
    if (it.kind === "column" || !it.node.phone) continue;
    css += rules(phoneClass(it.node.id), it.node.phone);
  }
  return css;
}
