import { isSafeHref } from "~/core/program";
import { Input, Line } from "../../ui/form";

/** Says when an address cannot be followed from an email. */
export function HrefProblem({ href }: { href: string }) {
  if (href.trim() === "" || isSafeHref(href)) return null;
  return (
    <p className="text-xs text-amber" role="status">
      Start with https://, mailto: or tel: or the link will lead nowhere.
    </p>
  );
}

/** Where something leads. */
export function HrefLine({
  href,
  empty = "https://",
  onChange,
}: {
  href: string;
  empty?: string;
  onChange(href: string): void;
}) {
  return (
    <>
      <Line label="Leads to">
        {(id) => (
          <Input
            id={id}
            placeholder={empty}
            value={href}
            onChange={(event) => onChange(event.target.value)}
          />
        )}
      </Line>
      <HrefProblem href={href} />
    </>
  );
}
