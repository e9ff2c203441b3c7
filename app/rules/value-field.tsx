import { X } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, useId, useState } from "react";
import type { FieldDef } from "~/core/audience";
import { Choose, type Option } from "../ui/choose";
import { type Editing, Input } from "../ui/form";
import { count } from "../ui/time";
import { useFieldValues } from "./use-field-values";

/** One value of a field: out of those it may have, with how many have it, or freely with those that exist offered. */
export function ValueField({ field, value, onChange }: Editing<string> & { field: FieldDef }) {
  const known = useFieldValues(field.key);
  if (field.options)
    return (
      <Choose
        label="Value"
        className="w-auto! max-w-full"
        value={value}
        onChange={onChange}
        options={optionsOf(field, known, value === "" ? [] : [value])}
      />
    );
  return <Suggesting label="Value" value={value} known={known} onChange={onChange} />;
}

/** Several values of a field, each with a way to take it out. */
export function ValuesField({
  field,
  values,
  onChange,
}: {
  field: FieldDef;
  values: readonly string[];
  onChange(values: string[]): void;
}) {
  const known = useFieldValues(field.key);
  const [typed, setTyped] = useState("");
  const add = (value: string) => {
    setTyped("");
    if (value !== "" && !values.includes(value)) onChange([...values, value]);
  };
  const labelOf = (value: string) => field.options?.find((option) => option.value === value)?.label ?? value;
  return (
    <span className="flex min-w-0 flex-wrap items-center gap-1">
      {values.map((value) => (
        <span
          key={value}
          className="flex max-w-full items-center gap-0.5 rounded-full bg-teal-wash py-0.5 pr-0.5 pl-2.5 text-teal"
        >
          <span className="truncate">{labelOf(value)}</span>
          <button
            type="button"
            aria-label={`Without ${labelOf(value)}`}
            className="rounded-full p-0.5 hover:bg-black/8"
            onClick={() => onChange(values.filter((one) => one !== value))}
          >
            <X className="size-3.5" aria-hidden />
          </button>
        </span>
      ))}
      {field.options ? (
        <Choose
          label="Add a value"
          className="w-auto!"
          value=""
          placeholder={values.length === 0 ? "Choose…" : "or…"}
          onChange={add}
          options={optionsOf(field, known, []).filter((option) => !values.includes(option.value))}
        />
      ) : (
        <Suggesting
          label="Add a value"
          value={typed}
          known={known?.filter(({ value }) => !values.includes(value)) ?? null}
          onChange={setTyped}
          onDone={add}
        />
      )}
    </span>
  );
}

type Known = readonly { value: string; count: number }[] | null;

function optionsOf(field: FieldDef, known: Known, also: readonly string[]): Option[] {
  const options = field.options ?? [];
  const others = also.filter((value) => !options.some((option) => option.value === value));
  return [...others.map((value) => ({ value, label: value })), ...options].map((option) => ({
    ...option,
    aside: known ? count(known.find(({ value }) => value === option.value)?.count ?? 0) : undefined,
  }));
}

/**
 * Words that are typed, with the values there are offered below. By hand, since Enter has to keep what was
 * typed: the library of `choose.tsx` is always on one of its entries, and says of its field that it is open while it is
 * not.
 */
function Suggesting({
  label,
  value,
  known,
  onChange,
  onDone,
}: Editing<string> & {
  label: string;
  known: Known;
  /** When it is one of several: Enter ends it. */
  onDone?(value: string): void;
}) {
  const list = useId();
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(-1);
  const wanted = value.trim().toLowerCase();
  const offered = (known ?? [])
    .filter((one) => one.value.toLowerCase().includes(wanted) && one.value !== value)
    .slice(0, 8);
  const take = (one: string) => {
    setOpen(false);
    if (onDone) onDone(one);
    else onChange(one);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setOpen(true);
      setAt((before) =>
        Math.max(-1, Math.min(offered.length - 1, before + (event.key === "ArrowDown" ? 1 : -1))),
      );
    } else if (event.key === "Enter") {
      if (!onDone && !(open && offered[at])) return;
      event.preventDefault();
      take(open && offered[at] ? offered[at].value : value.trim());
    } else if (event.key === "Escape" && open && offered.length > 0) {
      event.stopPropagation();
      setOpen(false);
    }
  };
  const shown = open && offered.length > 0;
  return (
    <Popover.Root open={shown} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <Input
          role="combobox"
          aria-label={label}
          aria-expanded={shown}
          aria-controls={list}
          aria-autocomplete="list"
          aria-activedescendant={shown && at >= 0 ? `${list}-${at}` : undefined}
          autoComplete="off"
          className="w-44! max-w-full"
          value={value}
          onFocus={() => setOpen(true)}
          onBlur={() => {
            setOpen(false);
            if (onDone && value.trim() !== "") onDone(value.trim());
          }}
          onChange={(event) => {
            setOpen(true);
            setAt(-1);
            onChange(event.target.value);
          }}
          onKeyDown={press}
        />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          align="start"
          className="z-50 w-(--radix-popover-trigger-width) min-w-44 rounded-lg border bg-paper p-1 shadow-xl outline-none"
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <div role="listbox" id={list} aria-label="Values there are">
            {offered.map((one, index) => (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are heard in the field, which has the focus
              <div
                key={one.value}
                id={`${list}-${index}`}
                role="option"
                tabIndex={-1}
                aria-selected={index === at}
                className={`flex min-h-8 cursor-default items-center gap-2 rounded-md px-2 ${index === at ? "bg-black/6" : ""}`}
                onPointerMove={() => setAt(index)}
                // Before the field loses the focus.
                onPointerDown={(event) => event.preventDefault()}
                onClick={() => take(one.value)}
              >
                <span className="min-w-0 grow truncate">{one.value}</span>
                <span className="text-xs text-ink-soft">{count(one.count)}</span>
              </div>
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
