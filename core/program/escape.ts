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

/** Control characters and line breaks become single spaces: a value is always one line. */
export function collapse(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, " ").trim();
}

/** Whether an address may be followed from an email: http, https, mailto, tel, or a place in the email itself. */
export function isSafeHref(href: string): boolean {
  return /^(https?:\/\/|mailto:|tel:|#)/i.test(href.trim());
}

/** The address when it is safe, else `#`. */
export function safeHref(href: string): string {
  return isSafeHref(href) ? href.trim() : "#";
}
