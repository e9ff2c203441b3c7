import { AlignCenterHorizontal, AlignEndHorizontal, AlignStartHorizontal } from "lucide-react";
import { commands } from "~/core/compose";
import {
  type Block,
  type Column,
  equalWidths,
  type Padding,
  type Row,
  resolveTheme,
  type Section,
} from "~/core/email";
import { Choice, Input, Line, Select } from "../../ui/form";
import { newId, useComposer, useComposerStore } from "../store";
import { ColourPopover, HexInput } from "./colour";
import { contrast } from "./contrast";
import { Part } from "./part";

/** Sets properties of a node; closely following changes of one property are one step. */
export function useSet(id: string): (properties: Record<string, unknown>, label?: string) => void {
  const store = useComposerStore();
  return (properties, label = "Changing the look") => {
    store
      .getState()
      .apply(commands.set(id, properties), label, `set ${id} ${Object.keys(properties).join()}`);
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
}: {
  label: string;
  value: string | undefined;
  theme: string;
  onChange(value: string | undefined): void;
  against?: string;
}) {
  const shown = value ?? theme;
  const ratio = against === undefined ? null : contrast(shown, against);
  return (
    <>
      <Line
        label={label}
        mark={value !== undefined && <Dot label={label} onReset={() => onChange(undefined)} />}
      >
        {(id) => (
          <div className="flex items-center gap-2">
            <ColourPopover label={label} value={shown} against={against} onChange={onChange}>
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
            <HexInput id={id} value={shown} onChange={onChange} />
          </div>
        )}
      </Line>
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
}: {
  label: string;
  value: number | undefined;
  theme?: number;
  unit: string;
  min?: number;
  max: number;
  onChange(value: number | undefined): void;
}) {
  const differs = theme !== undefined && value !== undefined;
  return (
    <Line label={label} mark={differs && <Dot label={label} onReset={() => onChange(undefined)} />}>
      {(id) => (
        <div className="flex items-center gap-2">
          <Input
            id={id}
            type="number"
            min={min}
            max={max}
            value={value ?? theme ?? ""}
            onChange={(event) => {
              const number = event.target.valueAsNumber;
              if (!Number.isNaN(number)) onChange(Math.min(max, Math.max(min, Math.round(number))));
            }}
          />
          <span className="whitespace-nowrap text-ink-soft">{unit}</span>
        </div>
      )}
    </Line>
  );
}

const SIDES = ["top", "right", "bottom", "left"] as const;

export function PaddingLines({
  value,
  theme,
  onChange,
}: {
  value: Padding | undefined;
  theme: Padding;
  onChange(value: Padding | undefined): void;
}) {
  const shown = value ?? theme;
  return (
    <fieldset>
      <legend className="mb-1 flex items-center gap-1.5 text-ink-soft">
        Inner space, px {value && <Dot label="inner space" onReset={() => onChange(undefined)} />}
      </legend>
      <div className="grid grid-cols-4 gap-1.5">
        {SIDES.map((side) => (
          <div key={side} className="text-center text-xs text-ink-soft">
            <Input
              type="number"
              aria-label={`Space ${side}`}
              className="px-1! text-center"
              min={0}
              max={400}
              value={shown[side]}
              onChange={(event) =>
                onChange({
                  ...shown,
                  [side]: Math.min(400, Math.max(0, Math.round(event.target.valueAsNumber) || 0)),
                })
              }
            />
            {side}
          </div>
        ))}
      </div>
    </fieldset>
  );
}

function NameLine({ id, name }: { id: string; name: string | undefined }) {
  const set = useSet(id);
  return (
    <Line label="Name">
      {(field) => (
        <Input
          id={field}
          value={name ?? ""}
          placeholder="for the outline"
          onChange={(event) => set({ name: event.target.value || undefined }, "Renaming")}
        />
      )}
    </Line>
  );
}

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

export function BlockLook({ block }: { block: Block }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Place">
      <NameLine id={block.id} name={block.name} />
      <ColorLine
        label="Background"
        value={block.background}
        theme={theme.light.paper}
        onChange={(background) => set({ background })}
      />
      <PaddingLines
        value={block.padding}
        theme={{ ...NONE, top: theme.space.block, bottom: theme.space.block }}
        onChange={(padding) => set({ padding })}
      />
    </Part>
  );
}

export function ColumnLook({ column }: { column: Column }) {
  const set = useSet(column.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Look of the column">
      <ColorLine
        label="Background"
        value={column.background}
        theme={theme.light.paper}
        onChange={(background) => set({ background })}
      />
      <PaddingLines value={column.padding} theme={NONE} onChange={(padding) => set({ padding })} />
    </Part>
  );
}

const DIVISIONS: readonly { label: string; widths: readonly number[] }[] = [
  { label: "One column", widths: [100] },
  { label: "Two, equal", widths: equalWidths(2) },
  { label: "Two, left wider", widths: [66, 34] },
  { label: "Two, right wider", widths: [34, 66] },
  { label: "Three", widths: equalWidths(3) },
  { label: "Four", widths: equalWidths(4) },
];

export function RowLook({ row }: { row: Row }) {
  const store = useComposerStore();
  const set = useSet(row.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  const now = row.columns.map((column) => column.width);
  const at = DIVISIONS.findIndex(
    ({ widths }) =>
      widths.length === now.length && widths.every((width, index) => Math.abs(width - now[index]) < 1),
  );
  return (
    <>
      <Part title="Columns">
        <Line label="Divided">
          {(id) => (
            <Select
              id={id}
              value={at}
              onChange={(event) =>
                store
                  .getState()
                  .apply(
                    commands.divide(row.id, DIVISIONS[Number(event.target.value)].widths, newId),
                    "Dividing the row",
                  )
              }
            >
              {at < 0 && <option value={-1}>As it is</option>}
              {DIVISIONS.map((division, index) => (
                <option key={division.label} value={index}>
                  {division.label}
                </option>
              ))}
            </Select>
          )}
        </Line>
        {row.columns.length > 1 && (
          <>
            <NumberLine
              label="Gap"
              unit="px"
              value={row.gap}
              theme={theme.space.gap}
              max={120}
              onChange={(gap) => set({ gap })}
            />
            <Line label="Stand at">
              {() => (
                <Choice
                  label="Columns stand at"
                  value={row.valign ?? "top"}
                  onChange={(valign) => set({ valign: valign === "top" ? undefined : valign })}
                  options={[
                    { value: "top", label: "Top", icon: <AlignStartHorizontal className="size-4" /> },
                    { value: "middle", label: "Middle", icon: <AlignCenterHorizontal className="size-4" /> },
                    { value: "bottom", label: "Bottom", icon: <AlignEndHorizontal className="size-4" /> },
                  ]}
                />
              )}
            </Line>
          </>
        )}
      </Part>
      <Part title="Look of the row">
        <NameLine id={row.id} name={row.name} />
        <ColorLine
          label="Background"
          value={row.background}
          theme={theme.light.paper}
          onChange={(background) => set({ background })}
        />
        <PaddingLines
          value={row.padding}
          theme={{ ...NONE, left: theme.space.inset, right: theme.space.inset }}
          onChange={(padding) => set({ padding })}
        />
      </Part>
    </>
  );
}

export function SectionLook({ section }: { section: Section }) {
  const set = useSet(section.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Look of the section">
      <NameLine id={section.id} name={section.name} />
      <ColorLine
        label="Around"
        value={section.background}
        theme={theme.light.table}
        onChange={(background) => set({ background })}
      />
      <ColorLine
        label="Behind"
        value={section.contentBackground}
        theme={section.background ?? theme.light.paper}
        onChange={(contentBackground) => set({ contentBackground })}
      />
      <NumberLine
        label="Corners"
        unit="px"
        value={section.radius}
        theme={0}
        max={60}
        onChange={(radius) => set({ radius })}
      />
      <PaddingLines
        value={section.padding}
        theme={{ ...NONE, top: theme.space.section, bottom: theme.space.section }}
        onChange={(padding) => set({ padding })}
      />
    </Part>
  );
}
