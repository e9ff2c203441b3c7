/** What the controls of steps share. */
import { useId } from "react";
import type { Outline, PictureStep, Size, StepOf } from "~/core/pictures";
import type { Editing } from "../../ui/form";
import { HexInput } from "../../ui/hex-input";

export interface Writing {
  /** Families to write with; the brand's come first. */
  fonts: readonly { family: string; aside?: string }[];
  /** Colours of the brand. */
  colours: readonly string[];
}

export interface Facts {
  /** The picture's size before the step. */
  before: Size;
  steps: readonly PictureStep[];
  original: Size;
  writing: Writing;
  outline: Outline | undefined;
  /** How well the words can be read. */
  contrast: number | null;
  pen: { color: string; width: number };
  onPen(pen: { color: string; width: number }): void;
  onRatio(ratio: number | null): void;
  ratio: number | null;
}

export type Panel<K extends PictureStep["kind"]> = Facts & {
  step: StepOf<K>;
  set(part: Partial<StepOf<K>>): void;
};

/** A colour: of the brand, or by its six digits. */
export function Colour({
  label,
  value,
  colours,
  onChange,
}: Editing<string> & {
  label: string;
  colours: readonly string[];
}) {
  const id = useId();
  return (
    <div role="group" aria-labelledby={id} className="space-y-1.5">
      <p id={id} className="text-ink-soft">
        {label}
      </p>
      <div className="flex flex-wrap items-center gap-1.5">
        {[...new Set(["#FFFFFF", "#1E1B24", ...colours])].slice(0, 9).map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={colour}
            aria-pressed={colour.toLowerCase() === value.toLowerCase()}
            onClick={() => onChange(colour)}
            className="size-6 rounded-md border border-ink-soft/50 aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-mulberry"
            style={{ background: colour }}
          />
        ))}
        <div className="w-24">
          <HexInput label={`${label}, six digits`} value={value} onChange={onChange} />
        </div>
      </div>
    </div>
  );
}
