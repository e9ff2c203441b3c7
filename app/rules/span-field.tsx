import { useState } from "react";
import type { Span } from "~/core/audience";
import { Choose } from "../ui/choose";
import { NumberField } from "../ui/number-field";

type Unit = "days" | "months" | "years";

const unitOf = (span: Span): Unit =>
  typeof span === "number" ? "days" : span.months > 0 && span.months % 12 === 0 ? "years" : "months";

/** A length of time: a number of days, months or years. */
export function SpanField({ value, onChange }: { value: Span; onChange(value: Span): void }) {
  // Twelve months may also be meant as months.
  const [unit, setUnit] = useState<Unit>(unitOf(value));
  const shown: Unit = typeof value === "number" ? "days" : unit === "days" ? unitOf(value) : unit;
  const number =
    typeof value === "number" ? value : shown === "years" ? Math.round(value.months / 12) : value.months;
  const spanOf = (count: number, of: Unit): Span =>
    of === "days" ? count : { months: of === "years" ? count * 12 : count };
  const one = number === 1;
  return (
    <span className="flex items-center gap-1">
      <NumberField
        label="How long"
        className="w-14!"
        max={shown === "days" ? 36_500 : 100}
        value={number}
        onChange={(count) => onChange(spanOf(count, shown))}
      />
      <Choose
        label="Unit of time"
        className="w-auto!"
        value={shown}
        options={[
          { value: "days", label: one ? "day" : "days" },
          { value: "months", label: one ? "month" : "months" },
          { value: "years", label: one ? "year" : "years" },
        ]}
        onChange={(to) => {
          setUnit(to);
          onChange(spanOf(Math.min(number, to === "days" ? 36_500 : 100), to));
        }}
      />
    </span>
  );
}
