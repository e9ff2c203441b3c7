import { Slider as Radix } from "radix-ui";
import type { Editing } from "./form";
import { NumberField } from "./number-field";

/** A number on a scale, to be drawn or typed. A press on the scale's name brings it back to where it rests. */
export function Slider({
  label,
  value,
  min = 0,
  max,
  rest = 0,
  unit,
  onChange,
}: Editing<number> & {
  label: string;
  min?: number;
  max: number;
  /** What it is when nothing was done. */
  rest?: number;
  unit?: string;
}) {
  return (
    <div className="grid grid-cols-[1fr_64px] items-center gap-x-3 gap-y-0.5">
      <button
        type="button"
        title={value === rest ? undefined : `Back to ${rest}`}
        onClick={() => onChange(rest)}
        className="justify-self-start text-left text-ink-soft"
      >
        {label}
        {value !== rest && (
          <span className="ml-1.5 inline-block size-1.5 rounded-full bg-ink-soft align-middle" />
        )}
      </button>
      <div className="relative row-span-2">
        <NumberField
          label={unit ? `${label}, ${unit}` : label}
          value={value}
          min={min}
          max={max}
          onChange={onChange}
        />
      </div>
      <Radix.Root
        value={[value]}
        min={min}
        max={max}
        step={1}
        onValueChange={([next]) => onChange(next)}
        className="relative flex h-4 touch-none items-center"
      >
        <Radix.Track className="relative h-1 grow rounded-full bg-[#dcd9e1]">
          <Radix.Range className="absolute h-full rounded-full bg-[#b9b4c2]" />
        </Radix.Track>
        <Radix.Thumb
          aria-label={label}
          className="block size-4 rounded-full border border-ink-soft bg-paper shadow-sm hover:border-mulberry"
        />
      </Radix.Root>
    </div>
  );
}
