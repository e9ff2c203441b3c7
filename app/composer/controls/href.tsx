import { TriangleAlert, X } from "lucide-react";
import { useState } from "react";
import { leads } from "~/core/markup";
import { completeHref } from "~/core/program";
import { ask } from "../../requests";
import { IconButton } from "../../ui/button";
import { type Editing, Line } from "../../ui/form";
import { Offering } from "../../ui/offering";
import { TypedInput } from "../../ui/typed-field";
import { useAnswer } from "../../ui/use-answer";
import { useComposer, useComposerStore } from "../state/store";
import { foundTargets, type LinkTarget, targetNamed } from "./link-targets";

/** Whether what stands in the field is words to search by, and no address or the beginning of one. */
const isSought = (href: string): boolean =>
  !href.includes("{") && !/^[a-z]+:/i.test(href.trim()) && completeHref(href) === href.trim();

/** Says when an address cannot be followed from an email. */
export function HrefProblem({ href }: { href: string }) {
  if (href.trim() === "" || leads(href)) return null;
  return (
    <p className="text-xs text-amber" role="status">
      Choose one of what is found, or start with https://, mailto: or tel:. The link leads nowhere.
    </p>
  );
}

type Asked = Editing<string> & { "aria-label"?: string; autoFocus?: boolean; placeholder?: string };

/** Where something leads: an address, or something that is searched for and kept as what it is. */
export function HrefInput(asked: Asked) {
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const [retyped, setRetyped] = useState(false);
  const named = targetNamed(asked.value, { email, facts });
  if (named)
    return (
      <Chosen
        target={named}
        label={asked["aria-label"]}
        onRelease={() => {
          setRetyped(true);
          asked.onChange("");
        }}
      />
    );
  return <HrefField {...asked} autoFocus={asked.autoFocus || retyped} />;
}

/** What was chosen, with a way to lead somewhere else. */
function Chosen({
  target: { icon: Icon, name, what, gone },
  label,
  onRelease,
}: {
  target: LinkTarget & { gone?: true };
  label: string | undefined;
  onRelease(): void;
}) {
  return (
    <div
      role="group"
      aria-label={`${label ?? "Leads to"}: ${name}, ${what}`}
      className="flex min-h-8 items-center gap-2 rounded-md border bg-teal-wash/60 pl-2"
    >
      {gone ? (
        <TriangleAlert className="size-4 shrink-0 text-amber" aria-hidden />
      ) : (
        <Icon className="size-4 shrink-0 text-teal" aria-hidden />
      )}
      <span className="min-w-0 grow py-0.5 leading-tight">
        <span className="line-clamp-2 break-words" title={name}>
          {name}
        </span>
        <span className={`block truncate text-xs ${gone ? "text-amber" : "text-ink-soft"}`}>{what}</span>
      </span>
      <IconButton icon={X} small label={`Lead elsewhere than to “${name}”`} onClick={onRelease} />
    </div>
  );
}

/** The field itself: words search what there is; an address without a scheme is completed when the field is left. */
function HrefField({ value, onChange, placeholder = "Search, or https://", ...rest }: Asked) {
  const store = useComposerStore();
  const email = useComposer((state) => state.email);
  const facts = useComposer((state) => state.facts);
  const sought = isSought(value);
  const words = value.trim();
  const { last } = useAnswer(
    sought && words.length > 1 && facts.sources.length > 0 ? words : null,
    (signal) => ask("/sources/items", { query: { words, limit: 8 }, signal }),
    120,
  );
  const offered = sought
    ? foundTargets(value, { email, facts }, words.length > 1 ? (last?.items ?? []) : [])
    : [];
  const complete = () => {
    const whole = completeHref(value);
    if (whole !== value) store.getState().closing(() => onChange(whole));
  };
  return (
    <Offering
      label="What a link can lead to"
      wide
      offered={offered}
      keyOf={({ href }) => href}
      onTake={({ href }) => store.getState().closing(() => onChange(href))}
      onLeave={complete}
      row={({ icon: Icon, name, what }) => (
        <>
          <Icon className="size-4 shrink-0 text-teal" aria-hidden />
          <span className="min-w-0 grow py-1 leading-tight">
            <span className="line-clamp-2 break-words">{name}</span>
            <span className="block truncate text-xs text-ink-soft">{what}</span>
          </span>
        </>
      )}
    >
      {(field) => (
        <TypedInput
          {...rest}
          {...field}
          data={facts}
          placeholder={placeholder}
          value={value}
          inputMode="url"
          spellCheck={false}
          onChange={onChange}
          onKeyDown={(event) => {
            field.onKeyDown(event);
            if (event.key === "Enter" && !event.defaultPrevented) complete();
          }}
        />
      )}
    </Offering>
  );
}

/** Where something leads, with its label. */
export function HrefLine({
  href,
  empty,
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
