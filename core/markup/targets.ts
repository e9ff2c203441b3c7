import { escapeHtml, safeHref } from "../program";
import type { RenderContext } from "./context";

/** Where a link leads in the message: made safe, with the campaign's parameters where they belong. */
export function targetOf(href: string, { links }: Pick<RenderContext, "links">): string {
  const safe = safeHref(href);
  if (!links || links.parameters.length === 0 || !/^https?:/i.test(safe)) return safe;
  if (links.untracked.includes(safe)) return safe;
  const hash = safe.indexOf("#");
  const [address, fragment] = hash < 0 ? [safe, ""] : [safe.slice(0, hash), safe.slice(hash)];
  const added = links.parameters
    .filter(({ name }) => name !== "")
    .map(({ name, value }) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`)
    .join("&");
  if (added === "") return safe;
  return `${address}${address.includes("?") ? (/[?&]$/.test(address) ? "" : "&") : "?"}${added}${fragment}`;
}

/** The same as the value of an attribute. */
export function hrefOf(href: string, context: Pick<RenderContext, "links">): string {
  return escapeHtml(targetOf(href, context));
}

/**
 * Where a link leads, for the plain-text part: the address itself, or a number that stands for it in the list at the
 * end. Empty when it leads nowhere.
 * @param form how the address is joined to the words before it
 */
export function textTarget(href: string, context: RenderContext, form: "colon" | "brackets"): string {
  const target = targetOf(href, context);
  if (target === "#") return "";
  const { textLinks } = context;
  if (!textLinks) return form === "colon" ? `: ${target}` : ` (${target})`;
  let at = textLinks.indexOf(target);
  if (at < 0) at = textLinks.push(target) - 1;
  return ` [${at + 1}]`;
}

/** A link that a block holds as a property of its own. */
export interface PlacedLink {
  /** Where its address stands in the block; null when it cannot be edited. */
  path: string | null;
  /** What a reader presses. */
  words: string;
  href: string;
  /** Why it cannot be edited here. */
  fixed?: string;
}
