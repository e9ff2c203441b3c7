import { type OverlaidBlock, tallClass } from "../blocks";
import { type Email, type Padding, type Phone, type Theme, walk } from "../email";
import { type Direction, directionOf } from "../program";
import { usualOnPhones } from "../properties";

/**
 * The classes under which a part's differences on phones stand in the style block: one for each property, named after
 * its value, so that parts that differ in the same way share one.
 */
export function phoneClasses({ padding, align, size, share }: Phone): string[] {
  const named = (name: string, ...values: number[]) =>
    `${name}${values.map((value) => String(value).replace(".", "_")).join("-")}`;
  return [
    padding && named("p-in", padding.top, padding.right, padding.bottom, padding.left),
    align && `p-to-${align}`,
    size && named("p-size", size),
    share && named("p-wide", share),
  ].filter((name): name is string => Boolean(name));
}

const px = ({ top, right, bottom, left }: Padding) => `${top}px ${right}px ${bottom}px ${left}px`;
/** From this size on headings are large, in px. */
const LARGE = 28;
const MARGIN = { left: "0 auto 0 0", center: "0 auto", right: "0 0 0 auto" };
const MIRRORED = { left: "right", center: "center", right: "left" } as const;

/** The rules of one part's classes, by their names. */
function rulesOf(phone: Phone, direction: Direction): [string, string][] {
  const { padding, align, size, share } = phone;
  return phoneClasses(phone).map((name): [string, string] => {
    const inside = (...elements: string[]) => elements.map((element) => `.${name} ${element}`).join(",");
    if (name.startsWith("p-in") && padding) return [name, `.${name}{padding:${px(padding)}!important}`];
    if (name.startsWith("p-to") && align) {
      const side = direction === "rtl" ? MIRRORED[align] : align;
      return [
        name,
        `${inside("p", "h1", "h2", "h3", "div", "td", "th")}{text-align:${side}!important}` +
          `${inside("table[align]", "img")}{float:none!important;margin:${MARGIN[side]}!important}`,
      ];
    }
    if (name.startsWith("p-size") && size)
      return [
        name,
        `${inside("p", "h1", "h2", "h3", "div", "li", "td", "th", "a")}{font-size:${size}px!important;line-height:1.4!important}` +
          // Large headings stand closer, as they do on a desktop.
          (size < LARGE ? "" : `${inside("h1", "h2", "h3")}{line-height:1.05!important}`),
      ];
    return [name, `${inside("img")}{width:${share}%!important;max-width:${share}%!important}`];
  });
}

/**
 * How high pictures with words on them are on phones: by their proportions, as wide as they stand there.
 * @param unit a hundredth of the width of the window, or of what stands for it
 */
export function tallCss(email: Email, theme: Theme, unit: "vw" | "cqw"): string {
  const beside = { section: 0, row: 0 };
  let css = "";
  for (const it of walk(email)) {
    if (it.kind === "column") continue;
    const { left, right } = it.node.phone?.padding ?? usualOnPhones(it, theme);
    if (it.kind !== "block") beside[it.kind] = left + right;
    if (it.kind !== "block" || it.node.type !== "overlaid") continue;
    const block = it.node as unknown as OverlaidBlock;
    if (!block.natural || block.height !== undefined) continue;
    const share = block.natural.height / block.natural.width;
    const room = beside.section + beside.row + left + right;
    const tall = `calc(${Math.round(share * 1000) / 10}${unit} - ${Math.round(room * share)}px)!important`;
    css += `td.${tallClass(block)}{height:${tall}}a.${tallClass(block)}{min-height:${tall}}`;
  }
  return css;
}

/** What is different on phones in this email, as rules for its style block, each once. */
export function phoneCss(email: Email): string {
  const direction = directionOf(email.language);
  const rules = new Map<string, string>();
  for (const it of walk(email)) {
    if (it.kind === "column" || !it.node.phone) continue;
    for (const [name, rule] of rulesOf(it.node.phone, direction)) rules.set(name, rule);
  }
  return [...rules.values()].join("");
}
