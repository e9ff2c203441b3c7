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

/** Whether an address may be followed from an email: http, https, mailto, tel, or a place in the email itself. */
export function isSafeHref(href: string): boolean {
  return /^(https?:\/\/|mailto:|tel:|#)/i.test(href.trim());
}

/** The address when it is safe, else `#`. */
export function safeHref(href: string): string {
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
