/** Links whose addresses are none. */
import { type EmailLink, linksOf, setLinks } from "../../compose";
import { type Email, hasTyped } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";

/** What is wrong with an address, and what it was meant to be where that is plain; null where it is in order. */
export function addressFault(href: string): { what: string; meant?: string } | null {
  const trimmed = href.trim();
  if (trimmed === "") return null;
  if (trimmed.startsWith("#"))
    return { what: "is a place within the message, and most mail programs do not jump there" };
  // A tag may be the scheme, or all of it.
  if (/^\{\$/.test(trimmed)) return null;
  const twice = /^(?:https?:\/*)+(https?:\/\/.+)$/i.exec(trimmed);
  if (twice) return { what: "has its beginning twice", meant: twice[1] };
  const slip = /^(https?)(?::\/(?!\/)|:\\\\|;\/\/|\/\/)(.+)$/i.exec(trimmed);
  if (slip)
    return { what: "is not written as an address is", meant: `${slip[1].toLowerCase()}://${slip[2]}` };
  if (!hasTyped(trimmed) && /^[^:]*\s|^https?:.*\s/i.test(trimmed))
    return { what: "has a space in it", meant: trimmed.replace(/\s+/g, "%20") };
  const [, scheme] = /^([a-z][a-z\d+.-]*):/i.exec(trimmed) ?? [];
  if (scheme === undefined) return { what: "has no beginning such as https://", meant: `https://${trimmed}` };
  if (/^https?$/i.test(scheme)) {
    const host = /^https?:\/\/([^/?#]*)/i.exec(trimmed)?.[1] ?? "";
    if (hasTyped(host)) return null;
    if (!URL.canParse(trimmed) || !/\.[^.]|^\[/.test(new URL(trimmed).hostname))
      return { what: "is no site" };
    return null;
  }
  if (/^mailto$/i.test(scheme))
    return hasTyped(trimmed) || /^mailto:[^@\s]+@[^@\s]+\.[^@\s]+$/i.test(trimmed)
      ? null
      : { what: "is no address to write to" };
  if (/^tel$/i.test(scheme))
    return hasTyped(trimmed) || /^tel:\+?[\d().\s-]{3,}$/i.test(trimmed)
      ? null
      : { what: "is no number to call" };
  return null;
}

const named = ({ words, where }: EmailLink) =>
  words.trim() === "" ? `A link in “${where}”` : `The link “${words.trim()}”`;

function design(email: Email): Finding[] {
  return linksOf(email).flatMap((link): Finding[] => {
    const fault = addressFault(link.href);
    if (!fault || link.fixed !== null) return [];
    const { what, meant } = fault;
    return [
      {
        weight: "look",
        text: `${named(link)} leads to ${link.href}, which ${what}. Correct it.`,
        block: link.block,
        ...(meant && {
          mend: mendBy(`Lead to ${meant}`, email, setLinks([{ link, href: meant }])),
        }),
      },
    ];
  });
}

export const linksAddressCheck: Check = {
  name: "links-address",
  group: "content",
  label: "addresses that can be followed",
  why: "A press on it leads nowhere, or to an error.",
  spoken: true,
  design,
};
