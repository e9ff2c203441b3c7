import { leads } from "~/core/markup";
import { completeHref } from "~/core/program";
import { type Editing, Line } from "../../ui/form";
import { TypedInput } from "../../ui/typed-field";
import { useComposer, useComposerStore } from "../state/store";

/** Says when an address cannot be followed from an email. */
export function HrefProblem({ href }: { href: string }) {
  if (href.trim() === "" || leads(href)) return null;
  return (
    <p className="text-xs text-amber" role="status">
      Start with https://, mailto: or tel: or the link will lead nowhere.
    </p>
  );
}

/** An address; one without a scheme is completed when the field is left. */
export function HrefInput({
  value,
  onChange,
  placeholder = "https://",
  ...rest
}: Editing<string> & {
  "aria-label"?: string;
  autoFocus?: boolean;
  placeholder?: string;
}) {
  const store = useComposerStore();
  const facts = useComposer((state) => state.facts);
  const complete = () => {
    const whole = completeHref(value);
    if (whole !== value) store.getState().closing(() => onChange(whole));
  };
  return (
    <TypedInput
      {...rest}
      data={facts}
      placeholder={placeholder}
      value={value}
      inputMode="url"
      spellCheck={false}
      onChange={onChange}
      onBlur={complete}
      onKeyDown={(event) => event.key === "Enter" && complete()}
    />
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
        <HrefInput placeholder={empty} value={href} onChange={onChange} />
      </Line>
      <HrefProblem href={href} />
    </>
  );
}
