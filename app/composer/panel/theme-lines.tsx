import { TriangleAlert } from "lucide-react";
import { type HeadingLook, type Theme, themePairs } from "~/core/email";
import { Choose } from "../../ui/choose";
import { Line } from "../../ui/form";
import { HexInput } from "../../ui/hex-input";
import { Switch } from "../../ui/switch";
import { ColourPopover } from "../controls/colour";
import { NumberLine } from "./lines";

export type Scheme = "light" | "dark";

export const WEIGHTS = ["400", "500", "600", "700", "800"].map((value) => ({ value, label: value }));

export function ColourOf({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(colour: string): void;
}) {
  return (
    <Line label={label}>
      <div className="flex items-center gap-2">
        <ColourPopover label={label} value={value} onChange={onChange}>
          <button
            type="button"
            aria-label={`Choose the colour of ${label.toLowerCase()}`}
            className="size-8 shrink-0 rounded-md border p-0.5"
          >
            <span
              className="block size-full rounded-sm border border-black/10"
              style={{ background: value }}
            />
          </button>
        </ColourPopover>
        <HexInput value={value} onChange={onChange} />
      </div>
    </Line>
  );
}

/** How well each colour can be read where it stands. */
export function Pairs({ theme, scheme }: { theme: Theme; scheme: Scheme }) {
  return (
    <ul aria-label="Contrast of every pair" className="space-y-1 text-xs">
      {themePairs(theme, scheme).map(({ label, color, ground, ratio, wanted }) => (
        <li key={label} className="flex items-center gap-2">
          <span
            aria-hidden
            className="grid h-5 w-7 shrink-0 place-items-center rounded-sm border border-black/15 text-[11px] font-semibold"
            style={{ background: ground, color }}
          >
            Aa
          </span>
          <span className="grow">{label}</span>
          {ratio < wanted ? (
            <span className="flex items-center gap-1 text-amber">
              <TriangleAlert className="size-3.5" aria-hidden /> {ratio.toFixed(1)} to 1, wanted {wanted}
            </span>
          ) : (
            <span className="text-ink-soft">{ratio.toFixed(1)} to 1</span>
          )}
        </li>
      ))}
    </ul>
  );
}

export function Amount({
  label,
  value,
  min = 0,
  max,
  unit = "px",
  onChange,
}: {
  label: string;
  value: number;
  min?: number;
  max: number;
  unit?: string;
  onChange(value: number): void;
}) {
  return (
    <NumberLine
      label={label}
      value={value}
      unit={unit}
      min={min}
      max={max}
      onChange={(next) => next !== undefined && onChange(next)}
    />
  );
}

export function Weight({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange(weight: number): void;
}) {
  return (
    <Line label={label}>
      <Choose value={String(value)} options={WEIGHTS} onChange={(next) => onChange(Number(next))} />
    </Line>
  );
}

const HEADING_ROLES = [
  { value: "heading", label: "Headings" },
  { value: "text", label: "Words" },
  { value: "soft", label: "Soft words" },
  { value: "link", label: "Links" },
] as const;

export function HeadingLines({
  name,
  look,
  onChange,
}: {
  name: string;
  look: HeadingLook;
  onChange(look: HeadingLook): void;
}) {
  return (
    <fieldset aria-label={name} className="space-y-2.5">
      <Amount
        label="Size"
        value={look.size}
        min={10}
        max={120}
        onChange={(size) => onChange({ ...look, size })}
      />
      <Amount
        label="On phones"
        value={look.phone ?? look.size}
        min={10}
        max={80}
        onChange={(phone) => onChange({ ...look, phone: phone === look.size ? undefined : phone })}
      />
      <Amount
        label="Line height"
        unit="%"
        value={Math.round(look.line * 100)}
        min={80}
        max={300}
        onChange={(line) => onChange({ ...look, line: line / 100 })}
      />
      <Weight label="Weight" value={look.weight} onChange={(weight) => onChange({ ...look, weight })} />
      <Amount
        label="Spacing"
        unit="‰"
        value={look.tracking ?? 0}
        min={-100}
        max={400}
        onChange={(tracking) => onChange({ ...look, tracking: tracking === 0 ? undefined : tracking })}
      />
      <Line label="Colour">
        <Choose
          label={`Colour of ${name}`}
          value={look.role ?? "heading"}
          options={HEADING_ROLES}
          onChange={(role) => onChange({ ...look, role: role === "heading" ? undefined : role })}
        />
      </Line>
      <Switch
        checked={look.capitals ?? false}
        onChange={(capitals) => onChange({ ...look, capitals: capitals || undefined })}
      >
        In capitals
      </Switch>
    </fieldset>
  );
}
