import type { Email } from "~/core/email";
import type { Item } from "~/core/items";
import { escapeHtml } from "~/core/program";
import { uncounted } from "../readers/links";
import type { Septima } from "../septima";

/** Where a message names something to fetch: in an attribute, or in a style. */
const FETCHED = /(?:\ssrc|\sbackground)="(https?:[^"]*)"|url\(['"]?(https?:[^'")]*)/gi;

/**
 * What a frame with an email in it may do (Content Security Policy, level 3): be looked at, with our own pictures and
 * those whose addresses its blocks and what is picked for it name, and with the fonts of its theme. What HTML written by hand would fetch beside that, it may not.
 * @param html the message; addresses that are not in it are not named
 */
export function framePolicy(septima: Septima, email: Email, picked: readonly Item[], html: string): string {
  const named = new Set(blockAddresses(email));
  for (const { picture } of picked) if (picture !== null) named.add(picture);
  const shown = [...named].filter((address) => html.includes(escapeHtml(address)));
  const fonts = [...html.matchAll(/@font-face\{[^}]*?src:url\((https?:[^)]+)\)/g)].map(
    ([, address]) => address,
  );
  return policy(septima, [...ownOrigins(septima), ...shown.flatMap(asSource)], fonts.flatMap(asSource));
}

/** A message as a small picture shows it. */
export interface Framed {
  html: string;
  policy: string;
}

/**
 * A message to be looked at only, with what a frame may do that shows it. Pictures that HTML written by hand would
 * fetch from elsewhere are taken out of it, as it may also stand in a page.
 */
export function framed(septima: Septima, email: Email, picked: readonly Item[], html: string): Framed {
  const policy = framePolicy(septima, email, picked, html);
  const allowed = new Set(/img-src ([^;]*)/.exec(policy)?.[1].split(" "));
  const known = (address: string) => {
    const { origin } = new URL(address);
    return allowed.has(origin) || asSource(address).some((source) => allowed.has(source));
  };
  return {
    policy,
    html: html.replace(FETCHED, (whole, attribute, url) => {
      const address = (attribute ?? url).replaceAll("&amp;", "&");
      return URL.canParse(address) && known(address) ? whole : whole.replace(attribute ?? url, "data:,");
    }),
  };
}

/** The same for a message of which nothing but its bytes is known: our own pictures, or anybody's. */
export function messagePolicy(septima: Septima, pictures: "ours" | "all"): string {
  return policy(septima, pictures === "all" ? ["*"] : ownOrigins(septima));
}

/** Whether a message shows pictures that are not our own. */
export function showsForeignPictures(septima: Septima, html: string): boolean {
  const ours = ownOrigins(septima);
  return [...html.matchAll(FETCHED)].some(
    ([, src, url]) => !ours.some((origin) => (src ?? url).startsWith(`${origin}/`)),
  );
}

/** Where our own pictures are: here, and with the stand-ins. */
function ownOrigins({ config: { origin, readers, standins } }: Septima): string[] {
  return [
    ...new Set([origin, readers, ...Object.values(standins).map((address) => new URL(address).origin)]),
  ];
}

function policy(septima: Septima, pictures: readonly string[], named: readonly string[] = []): string {
  const fonts = new Set([...ownOrigins(septima), ...named]);
  const all = [...new Set(pictures)];
  return `default-src 'none'; img-src ${all.join(" ")} data:; font-src ${[...fonts].join(" ")}; style-src 'unsafe-inline'`;
}

/** All web addresses that a design names but for those in HTML written by hand. */
function blockAddresses(email: Email): string[] {
  const json = JSON.stringify(email, (key, value) => (key === "html" ? undefined : value));
  return [...json.matchAll(/"(https?:\/\/(?:[^"\\]|\\.)+)"/g)].map(([, text]) => JSON.parse(`"${text}"`));
}

/** An address as a policy names it: without what follows the path, and with the policy's own signs encoded. */
function asSource(address: string): string[] {
  if (!URL.canParse(address)) return [];
  const { origin, pathname } = new URL(address);
  return [origin + pathname.replaceAll(";", "%3B").replaceAll(",", "%2C")];
}

/** A message to be looked at, with what its frame may load. Whoever looks is not its reader: nothing of it counts. */
export async function shownMessage<M extends { html: string | null }>(septima: Septima, given: M) {
  const mail = { ...given, html: given.html && (await uncounted(septima, given.html)) };
  return {
    mail,
    foreign: mail.html !== null && showsForeignPictures(septima, mail.html),
    policies: { ours: messagePolicy(septima, "ours"), all: messagePolicy(septima, "all") },
  };
}
