import clsx from "clsx";
import { useState } from "react";
import { useFieldId } from "./form";

/**
 * A number in bounds. Arrow keys change it by one, with Shift by ten. What is typed counts as soon as it is within the
 * bounds, and is brought there when the field is left.
 */
export function NumberField({
  id,
  label,
  value,
  min = 0,
  max,
  disabled,
  placeholder,
  fraction,
  className,
  onChange,
}: {
  id?: string;
  label?: string;
  value: number | undefined;
  min?: number;
  max: number;
  disabled?: boolean;
  placeholder?: string;
  /** Whether it may have a part after the point. */
  fraction?: boolean;
  className?: string;
  onChange(value: number): void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const bounded = (number: number) => Math.min(max, Math.max(min, fraction ? number : Math.round(number)));
  const read = (text: string): number | null => {
    const number = Number(text.trim().replace(",", "."));
    return text.trim() === "" || Number.isNaN(number) ? null : number;
  };
  return (
    <input
      id={useFieldId(id)}
      type="text"
      inputMode="numeric"
      role="spinbutton"
      aria-label={label}
      aria-valuenow={value ?? 0}
      aria-valuetext={value === undefined ? "not set" : undefined}
      aria-valuemin={min}
      aria-valuemax={max}
      autoComplete="off"
      disabled={disabled}
      placeholder={placeholder}
      className={clsx("field disabled:opacity-45", className)}
      value={draft ?? value ?? ""}
      onFocus={(event) => event.target.select()}
      onChange={(event) => {
        setDraft(event.target.value);
        const number = read(event.target.value);
        if (number !== null && number === bounded(number)) onChange(number);
      }}
      onBlur={() => {
        const number = draft === null ? null : read(draft);
        setDraft(null);
        if (number !== null && bounded(number) !== value) onChange(bounded(number));
      }}
      onKeyDown={(event) => {
        if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
        event.preventDefault();
        const step = (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1);
        setDraft(null);
        onChange(bounded((value ?? min) + step));
      }}
    />
  );
}
