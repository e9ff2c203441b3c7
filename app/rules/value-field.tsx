import { X } from "lucide-react";
import { useState } from "react";
import type { FieldDef } from "~/core/audience";
import { Choose, type Option } from "../ui/choose";
import { type Editing, Input } from "../ui/form";
import { Offering } from "../ui/offering";
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

/** Words that are typed, with the values there are offered below. */
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
  const wanted = value.trim().toLowerCase();
  const offered = (known ?? [])
    .filter((one) => one.value.toLowerCase().includes(wanted) && one.value !== value)
    .slice(0, 8);
  return (
    <Offering
      label="Values there are"
      offered={offered}
      keyOf={(one) => one.value}
      onTake={(one) => (onDone ?? onChange)(one.value)}
      onEnter={onDone && (() => onDone(value.trim()))}
      onLeave={() => value.trim() !== "" && onDone?.(value.trim())}
      row={(one) => (
        <>
          <span className="min-w-0 grow truncate">{one.value}</span>
          <span className="text-xs text-ink-soft">{count(one.count)}</span>
        </>
      )}
    >
      {(field) => (
        <Input
          {...field}
          aria-label={label}
          className="w-44! max-w-full"
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Offering>
  );
}
