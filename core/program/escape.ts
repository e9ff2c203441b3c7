const ENTITIES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};

/** Text made safe for HTML content and quoted attribute values. */
export function escapeHtml(text: string): string {
  return /[&<>"']/.test(text) ? text.replace(/[&<>"']/g, (sign) => ENTITIES[sign]) : text;
}

/** What `escapeHtml` made of a text, as it was. */
export function unescapeHtml(text: string): string {
  const signs = new Map(Object.entries(ENTITIES).map(([sign, entity]) => [entity, sign]));
  return text.replace(/&(?:amp|lt|gt|quot|#39);/g, (entity) => signs.get(entity) ?? entity);
}

/**
 * Control characters and line breaks become single spaces: a value is always one line. Signs that turn the direction of
 * what follows are left out: they would go on behind the value (Unicode UAX 9, 2.1 to 2.5).
 */
export function collapse(text: string): string {
  return text
    .replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, " ")
    .replace(/[\u202a-\u202e\u2066-\u2069]/g, "")
    .trim();
}

/**
 * Where words land, and so how they are made safe: in an HTML element or attribute, in the title of the document, which
 * holds text alone, in a string of JSON in a script, in the text part, in a header; as a whole address in HTML or in the text part, as a piece of one, and as the address of a picture.
 */
export type Sink =
  | "html"
  | "attribute"
  | "title"
  | "json"
  | "text"
  | "header"
  | "href"
  | "url"
  | "component"
  | "src";

/** Words made safe for where they land; of a picture's address also whole, with the origin before one of ours. */
export function written(text: string, sink: Sink, origin = ""): string {
  switch (sink) {
    case "html":
    case "attribute":
    case "title":
      return escapeHtml(text);
    case "json":
      // No sign that could end the script is left, nor one that ends a line in old readers of JSON.
      return JSON.stringify(text.toWellFormed())
        .slice(1, -1)
        .replace(/[<>&\u2028\u2029]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`);
    case "href":
      return escapeHtml(safeHref(text));
    case "url":
      return safeHref(text);
    case "component":
      // RFC 3986, 2.1; the apostrophe, too, which would end a value in quotes. Half a sign is left out.
      return encodeURIComponent(text.toWellFormed()).replaceAll("'", "%27");
    case "src":
      return escapeHtml(absolute(text, origin));
    default:
      return text;
  }
}

/**
 * The address of a picture as a message carries it: one of our own with the origin before it, or one on the web. What
 * is no such address, such as a script or a picture written out in it, is left out.
 */
export function absolute(src: string, origin: string): string {
  const address = src.trim();
  if (/^\/(?!\/)/.test(address)) return origin + address;
  return /^https?:\/\//i.test(address) ? address : "";
}

/** Whether an address may be followed from an email: http, https, mailto, tel, or a place in the email itself. */
export function isSafeHref(href: string): boolean {
  return /^(https?:\/\/|mailto:|tel:|#)/i.test(href.trim());
}

/** The address when it is safe, else `#`. */
function safeHref(href: string): string {
  return isSafeHref(href) ? href.trim() : "#";
}

/**
 * An address as somebody meant it: without a scheme, one is put before what looks like a host, an email address or a
 * telephone number. What looks like none of them stays as it is.
 */
export function completeHref(text: string): string {
  const href = text.trim();
  if (href === "" || /^[#/{]/.test(href)) return href;
  if (/^(https?|mailto|tel|sms|ftp|data|javascript|vbscript|file|webcal):/i.test(href)) return href;
  if (/^[^\s@/:]+@[^\s@/:]+\.[^\s@/:]+(\?\S*)?$/.test(href)) return `mailto:${href}`;
  if (/^\+?[\d\s()/.-]{6,}$/.test(href) && !/^\d{1,3}(\.\d{1,3}){3}$/.test(href))
    return `tel:${href.replace(/[^\d+]/g, "")}`;
  if (/^[\p{L}\p{N}-]+(\.[\p{L}\p{N}-]+)+(:\d+)?([/?#]\S*)?$/u.test(href) || /^localhost\b/.test(href))
    return `https://${href}`;
  return href;
}

/**
 * An address as it stands in a letter from elsewhere: where it lacks its scheme and plainly is a host, one is put before
 * it; null where it leads nowhere, or into the letter itself.
 */
export function broughtHref(text: string): string | null {
  const href = text.trim();
  // What is named like a file stood beside the letter, and is not a host.
  const host =
    /^(www\.|[\w-]+(\.[\w-]+)*\.[a-z]{2,}(\/|$))/i.test(href) &&
    !/^[^/]*\.(html?|php|aspx?|pdf|png|jpe?g|gif|webp)$/i.test(href);
  const whole = /^\/\//.test(href)
    ? `https:${href}`
    : host || /^[^\s@/:]+@/.test(href)
      ? completeHref(href)
      : href;
  return isSafeHref(whole) && !whole.startsWith("#") ? whole.slice(0, 2000) : null;
}
