import { contrast } from "~/core/color";
import { commands } from "~/core/compose";
import { type Border, fillColor, isFillRole, type Padding } from "~/core/email";
import type { Ground } from "~/core/markup";
import type { Holder } from "~/core/properties";
import { Choice, type Editing, Line } from "../../ui/form";
import { HexInput } from "../../ui/hex-input";
import { NumberField } from "../../ui/number-field";
import { ColourPopover, ROLE_LABELS } from "../controls/colour";
import { useComposerStore } from "../state/store";
import { useTheme } from "../state/theme";

/** A block, or what blocks stand in. */
export type Settable = Holder & { id: string };

/** Sets properties of a node; closely following changes of one property are one step. */
export function useSet<Properties extends object = Record<string, unknown>>(
  id: string,
): (properties: Partial<Properties>, label?: string) => void {
  const store = useComposerStore();
  return (properties, label = "Changing the look") => {
    store
      .getState()
      .apply(
        commands.set(id, properties as Record<string, unknown>),
        label,
        `set ${id} ${Object.keys(properties).join()}`,
      );
  };
}

/** What differs from the theme carries a dot; pressing it goes back. */
export function Dot({ label, onReset }: { label: string; onReset(): void }) {
  return (
    <button
      type="button"
      aria-label={`Reset ${label} to the theme`}
      title="Differs from the theme. Press to reset."
      onClick={onReset}
      className="grid size-4 place-items-center rounded-full hover:bg-mulberry-wash"
    >
      <span className="size-1.5 rounded-full bg-mulberry" />
    </button>
  );
}

/** A colour, the theme's when `value` is undefined. `against` shows whether it can be read. */
export function ColorLine({
  label,
  value,
  theme,
  onChange,
  against,
  fills = false,
}: Editing<string | undefined> & {
  label: string;
  theme: string;
  against?: Ground;
  /** Whether a part stands on it, which may be a colour of the theme's by its role. */
  fills?: boolean;
}) {
  const whole = useTheme();
  const shown = fillColor(value ?? theme, whole);
  const ratio = against === undefined ? null : contrast(shown, against.light);
  return (
    <>
      <Line
        label={label}
        mark={value !== undefined && <Dot label={label} onReset={() => onChange(undefined)} />}
      >
        <div className="flex items-center gap-2">
          <ColourPopover
            label={label}
            value={shown}
            role={isFillRole(value) ? value : undefined}
            against={against}
            themed={value === undefined}
            fills={fills}
            onChange={onChange}
          >
            <button
              type="button"
              aria-label={`Choose ${label.toLowerCase()}`}
              className="size-8 shrink-0 rounded-md border p-0.5"
            >
              <span
                className="block size-full rounded-sm border border-black/10"
                style={{ background: shown }}
              />
            </button>
          </ColourPopover>
          <HexInput value={shown} onChange={onChange} />
        </div>
      </Line>
      {isFillRole(value) && (
        <p className="text-xs text-ink-soft">Follows the theme: {ROLE_LABELS[value].toLowerCase()}</p>
      )}
      {ratio !== null && ratio < 4.5 && (
        <p className="text-xs text-amber" role="status">
          Hard to read here: contrast {ratio.toFixed(1)} to 1, wanted 4.5.
        </p>
      )}
    </>
  );
}

export function NumberLine({
  label,
  value,
  theme,
  unit,
  min = 0,
  max,
  onChange,
}: Editing<number | undefined> & {
  label: string;
  theme?: number;
  unit: string;
  min?: number;
  max: number;
}) {
  const differs = theme !== undefined && value !== undefined;
  return (
    <Line label={label} mark={differs && <Dot label={label} onReset={() => onChange(undefined)} />}>
      <div className="flex items-center gap-2">
        <NumberField min={min} max={max} value={value ?? theme} onChange={onChange} />
        <span className="whitespace-nowrap text-ink-soft">{unit}</span>
      </div>
    </Line>
  );
}

const SIDES = ["top", "right", "bottom", "left"] as const;

export function PaddingLines({
  value,
  theme,
  label = "",
  onChange,
}: Editing<Padding | undefined> & {
  /** Where it holds, when it is not everywhere. */
  label?: string;
  theme: Padding;
}) {
  const shown = value ?? theme;
  const alike = SIDES.every((side) => shown[side] === shown.top);
  return (
    <fieldset>
      <legend className="mb-1 flex items-center gap-1.5 text-ink-soft">
        Inner space{label && ` ${label}`}, px{" "}
        {value && <Dot label={`inner space ${label}`.trim()} onReset={() => onChange(undefined)} />}
      </legend>
      <div className="grid grid-cols-5 gap-1.5">
        {(["all", ...SIDES] as const).map((side) => (
          <div key={side} className="text-center text-xs text-ink-soft">
            <NumberField
              label={`Space ${side === "all" ? "on all sides" : side} ${label}`.trim()}
              className="px-1! text-center"
              max={400}
              value={side === "all" ? (alike ? shown.top : undefined) : shown[side]}
              placeholder={side === "all" ? "–" : undefined}
              onChange={(space) =>
                onChange(
                  side === "all"
                    ? { top: space, right: space, bottom: space, left: space }
                    : { ...shown, [side]: space },
                )
              }
            />
            {side}
          </div>
        ))}
      </div>
    </fieldset>
  );
}

const NO_BORDER: Border = { width: 1, style: "solid", color: "#DADAE0" };

/** A border, or none. */
export function BorderLines({
  value,
  color,
  onChange,
}: Editing<Border | undefined> & {
  /** The colour a new one gets. */
  color: string;
}) {
  return (
    <>
      <Line label="Border">
        <Choice
          label="Border"
          value={value?.style ?? "none"}
          onChange={(style) =>
            onChange(style === "none" ? undefined : { ...NO_BORDER, color, ...value, style })
          }
          options={[
            { value: "none", label: "None" },
            { value: "solid", label: "Solid" },
            { value: "dashed", label: "Dashed" },
          ]}
        />
      </Line>
      {value && (
        <>
          <NumberLine
            label="Thickness"
            unit="px"
            min={1}
            max={20}
            value={value.width}
            onChange={(width) => width !== undefined && onChange({ ...value, width })}
          />
          <ColorLine
            label="Its colour"
            value={value.color}
            theme={value.color}
            onChange={(next) => next !== undefined && onChange({ ...value, color: next })}
          />
        </>
      )}
    </>
  );
}

/** So many signs stand beside each other in the panel; with more it is a list that opens. */
const BESIDE = 18;

/** Whether options are too long to stand side by side. */
export const isLong = (options: readonly { label: string }[]): boolean =>
  options.map(({ label }) => label).join("").length > BESIDE;
