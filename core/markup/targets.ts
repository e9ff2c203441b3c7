import { constantOf, hasTyped, readTyped, typedString, typedTag, typedWords, whenAddress } from "../email";
import { COUNTED_LINK, type Instruction, isSafeHref, numberedMark, type Sink, Writer } from "../program";
import type { RenderContext } from "./context";

/** Whether an address leads somewhere: one that may be followed from an email, or one that a tag stands for. */
export const leads = (href: string): boolean => isSafeHref(href) || href.trim().startsWith("{$");

/** An address without the spaces that somebody left in it, encoded (RFC 3986, 2.1); those of its tags stay. */
const withoutSpaces = (href: string): string =>
  /\s/.test(href)
    ? readTyped(href)
        .pieces.map((piece) => (typeof piece === "string" ? piece.replace(/\s/g, "%20") : typedTag(piece)))
        .join("")
    : href;

/** An address that is a tag as a whole which says the same to everybody, as what it says. */
function saidToAll(href: string, { known }: Pick<RenderContext, "known">): string {
  if (!href.startsWith("{$")) return href;
  const [tag, ...more] = readTyped(href).pieces;
  const same = more.length > 0 || typeof tag === "string" ? undefined : constantOf(tag, known);
  return same === undefined ? href : withoutSpaces(typedWords(same.trim()));
}

/** Where a link leads: with the campaign's parameters where they belong, as it is typed. */
function withParameters(href: string, context: Pick<RenderContext, "links" | "known">): string {
  const { links } = context;
  const typed = withoutSpaces(href.trim());
  const safe = saidToAll(typed, context);
  if (!links || links.parameters.length === 0 || !/^https?:/i.test(safe)) return safe;
  if (links.untracked.includes(typed)) return safe;
  const hash = safe.indexOf("#");
  const [address, fragment] = hash < 0 ? [safe, ""] : [safe.slice(0, hash), safe.slice(hash)];
  const added = links.parameters
    .filter(({ name }) => name !== "")
    .map(({ name, value }) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`)
    .join("&");
  if (added === "") return safe;
  return `${address}${address.includes("?") ? (/[?&]$/.test(address) ? "" : "&") : "?"}${added}${fragment}`;
}

type Around = Pick<RenderContext, "links" | "known" | "out" | "block" | "counted">;

/**
 * A mark for the address that counts a link and leads on to where it leads; null where it is not to be counted, since it
 * leads nowhere on the web, or it is said so of it or of all.
 */
function countedTarget(href: string, sink: Sink, context: Around): string | null {
  const { links, known, out, block = null } = context;
  const address = withoutSpaces(href.trim());
  if (!context.counted || links?.clicks === false || links?.untracked.includes(address)) return null;
  if (!/^https?:/i.test(address) && !address.startsWith("{$")) return null;
  const to = new Writer(out.pool)
    .raw(typedString(withParameters(href, context), "textLink", { known, out }))
    .finish();
  // An address that is the reader's own already, and leads to us, says itself who comes.
  const isOurs = (op: Instruction) =>
    op.op === "value" && out.pool.slots[op.slot].field.startsWith("system.");
  if (to.some(isOurs)) return null;
  const link = out.pool.link({ block, to });
  return out.pool.insert((inner) =>
    inner.value({ field: COUNTED_LINK, fallback: "", format: "asIs", sink, link }),
  );
}

/** Where a link leads in the text part: made safe, for `raw`. */
export function targetOf(href: string, context: Around): string {
  return (
    countedTarget(href, "url", context) ?? typedString(withParameters(href, context), "textLink", context)
  );
}

/** Where a link leads as the value of an attribute: made safe, for `raw`. */
export function hrefOf(href: string, context: Around): string {
  return countedTarget(href, "href", context) ?? typedString(withParameters(href, context), "link", context);
}

/** Words of an attribute that may hold tags, such as an alternative text: made safe, for `raw`. */
export function attributeOf(words: string, context: Around): string {
  return typedString(words, "attribute", context);
}

/**
 * Where a link leads, for the plain-text part: the address itself, or a mark in whose place the finished text has the
 * number under which the address is listed at its end. Empty when it leads nowhere.
 * @param form how the address is joined to the words before it
 */
export function textTarget(href: string, context: RenderContext, form: "colon" | "brackets"): string {
  const target = targetOf(href, context);
  if (target === "#") return "";
  const said = context.numbered
    ? ` ${numberedMark(target)}`
    : form === "colon"
      ? `: ${target}`
      : ` (${target})`;
  if (!hasTyped(href)) return said;
  const { known, out } = context;
  return out.pool.insert((inner) =>
    whenAddress(href, "textLink", { known, out: inner }, () => inner.raw(said)),
  );
}

/** Typed words as a piece of an address: percent-encoded, with their tags as they are. */
export function encodeTyped(text: string): string {
  return readTyped(text)
    .pieces.map((piece) => (typeof piece === "string" ? encodeURIComponent(piece) : typedTag(piece)))
    .join("");
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
