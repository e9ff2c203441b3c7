import { isSafeHref } from "~/core/program";

/** Says when an address cannot be followed from an email. */
export function HrefProblem({ href }: { href: string }) {
  if (href.trim() === "" || isSafeHref(href)) return null;
  return (
    <p className="text-xs text-amber" role="status">
      Start with https://, mailto: or tel: or the link will lead nowhere.
    </p>
  );
}
