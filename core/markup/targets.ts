import { escapeHtml, numberedMark, safeHref } from "../program";
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
 * Where a link leads, for the plain-text part: the address itself, or a mark in whose place the finished text has the
 * number under which the address is listed at its end. Empty when it leads nowhere.
 * @param form how the address is joined to the words before it
 */
export function textTarget(href: string, context: RenderContext, form: "colon" | "brackets"): string {
  const target = targetOf(href, context);
  if (target === "#") return "";
  if (context.numbered) return ` ${numberedMark(target)}`;
  return form === "colon" ? `: ${target}` : ` (${target})`;
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
