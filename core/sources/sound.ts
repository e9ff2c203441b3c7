/** What is kept of what strangers wrote: in bounds, and such that a database and a message can carry it. */

/** How many of each are kept, and so many characters of each text. */
export const GREATEST = {
  /** Of a feed: the newest. */
  articles: 200,
  /** Of anything else. */
  items: 200_000,
  categories: 20,
  path: 8,
  html: 100_000,
  title: 500,
  excerpt: 3000,
  fact: 1000,
  place: 300,
  id: 1000,
  category: 100,
  address: 2000,
};

/** Text that a database and a message can carry: without NUL and without half a character. */
export function sound(text: string): string {
  return text.replaceAll("\0", "").toWellFormed();
}

/** A web address read against the one it stands in; null when it is none. */
export function webAddress(text: string | undefined, base: string | null): string | null {
  if (!text?.trim()) return null;
  try {
    const url = base === null ? new URL(text.trim()) : new URL(text.trim(), base);
    const web = url.protocol === "http:" || url.protocol === "https:";
    return web && url.href.length <= GREATEST.address ? url.href : null;
  } catch {
    return null;
  }
}

/** A moment in ISO 8601 and UTC; null when it cannot be read. */
export function isoTime(text: string | undefined): string | null {
  const time = Date.parse(text ?? "");
  return Number.isNaN(time) ? null : new Date(time).toISOString();
}
