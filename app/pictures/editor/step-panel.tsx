import clsx from "clsx";
import { Eraser, RotateCcw, RotateCw } from "lucide-react";
import type { ReactNode } from "react";
import { focusOf, type PictureStep, RATIOS, SHAPES, SHOWN, TONES, toPx } from "~/core/pictures";
import { Button } from "../../ui/button";
import { Choice, Line } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { Slider } from "../../ui/slider";
import { Switch } from "../../ui/switch";
import { cropAround } from "./crop";
import { Colour, type Facts, type Panel } from "./step-kit";
import { Words } from "./words-panel";

export type { Writing } from "./step-kit";

const SHAPE_LABELS = { rectangle: "Straight", round: "Round", arch: "Arch", leaf: "Leaf" };

function Crop({ step, set, before, ratio, onRatio, steps, original }: Panel<"crop">) {
  const px = { x: before.width, y: before.height, width: before.width, height: before.height };
  const side = (key: keyof typeof px, label: string, most: number, least = 0) => (
    <Line label={label}>
      <NumberField
        min={Math.round(least * px[key])}
        max={Math.max(1, Math.round(most * px[key]))}
        value={Math.round(step[key] * px[key])}
        onChange={(value) => set({ [key]: Math.min(most, value / px[key]) })}
      />
    </Line>
  );
  const at = steps.findIndex(({ id }) => id === step.id);
  return (
    <>
      <div className="flex flex-wrap gap-1.5">
        {RATIOS.map((one) => (
          <button
            key={one.name}
            type="button"
            className="toggle"
            aria-pressed={ratio === one.ratio}
            onClick={() => {
              onRatio(one.ratio);
              if (one.ratio !== null)
                set(
                  cropAround(
                    focusOf(original, steps.slice(0, at)),
                    (one.ratio * before.height) / before.width,
                  ),
                );
            }}
          >
            {one.name}
          </button>
        ))}
      </div>
      <Choice
        label="Edge"
        value={step.shape}
        options={SHAPES.map((shape) => ({ value: shape, label: SHAPE_LABELS[shape] }))}
        onChange={(shape) => set({ shape })}
      />
      {side("x", "From left", 1 - step.width)}
      {side("y", "From top", 1 - step.height)}
      {side("width", "Width", 1 - step.x, 0.02)}
      {side("height", "Height", 1 - step.y, 0.02)}
      <Button onClick={() => set({ x: 0, y: 0, width: 1, height: 1 })}>Keep all of it</Button>
    </>
  );
}

function Rotate({ step, set }: Panel<"rotate">) {
  const turn = (by: number) => set({ turns: (step.turns + by + 4) % 4 });
  return (
    <>
      <div className="flex gap-2">
        <Button onClick={() => turn(-1)}>
          <RotateCcw className="size-4" aria-hidden /> Left
        </Button>
        <Button onClick={() => turn(1)}>
          <RotateCw className="size-4" aria-hidden /> Right
        </Button>
      </div>
      <Slider
        label="Straighten"
        unit="degrees"
        min={-45}
        max={45}
        value={step.angle}
        onChange={(angle) => set({ angle })}
      />
    </>
  );
}

function Flip({ step, set }: Panel<"flip">) {
  return (
    <Choice
      label="Flip"
      value={step.across}
      options={[
        { value: "horizontal", label: "Left to right" },
        { value: "vertical", label: "Upside down" },
      ]}
      onChange={(across) => set({ across })}
    />
  );
}

function Resize({ step, set }: Panel<"resize">) {
  return (
    <>
      <Line label="At most">
        <NumberField min={16} max={1400} value={step.width} onChange={(width) => set({ width })} />
      </Line>
      <p className="text-xs text-ink-soft">
        px wide. Emails fetch it at twice the width it is shown in and never wider than this.
      </p>
    </>
  );
}

function Light({ step, set }: Panel<"light">) {
  const scale = (key: "brightness" | "contrast" | "saturation" | "warmth", label: string) => (
    <Slider
      label={label}
      min={-100}
      max={100}
      value={step[key]}
      onChange={(value) => set({ [key]: value })}
    />
  );
  return (
    <>
      {scale("brightness", "Brightness")}
      {scale("contrast", "Contrast")}
      {scale("saturation", "Saturation")}
      {scale("warmth", "Warmth")}
      <Slider
        label="Sharpness"
        max={100}
        value={step.sharpness}
        onChange={(sharpness) => set({ sharpness })}
      />
    </>
  );
}

function Tone({ step, set }: Panel<"tone">) {
  return (
    <>
      <div className="grid grid-cols-2 gap-1.5">
        {Object.entries(TONES).map(([key, { label }]) => (
          <button
            key={key}
            type="button"
            className="toggle py-1"
            aria-pressed={step.tone === key}
            onClick={() => set({ tone: key as keyof typeof TONES })}
          >
            {label}
          </button>
        ))}
      </div>
      <Slider
        label="Strength"
        max={100}
        rest={100}
        value={step.strength}
        onChange={(strength) => set({ strength })}
      />
    </>
  );
}

function Pen({ step, set, pen, onPen, writing }: Panel<"pen">) {
  return (
    <>
      <p className="text-ink-soft">Draw on the picture.</p>
      <Slider
        label="Width"
        unit="px"
        min={1}
        max={60}
        rest={8}
        value={toPx(pen.width)}
        onChange={(px) => onPen({ ...pen, width: px / SHOWN })}
      />
      <Colour
        label="Colour"
        value={pen.color}
        colours={writing.colours}
        onChange={(color) => onPen({ ...pen, color })}
      />
      <Button
        disabled={step.strokes.length === 0}
        onClick={() => set({ strokes: step.strokes.slice(0, -1) })}
      >
        <Eraser className="size-4" aria-hidden /> Take the last stroke away
      </Button>
    </>
  );
}

function Frame({ step, set, writing }: Panel<"frame">) {
  return (
    <>
      <Choice
        label="Line"
        value={step.style}
        options={[
          { value: "none", label: "None" },
          { value: "line", label: "Edge" },
          { value: "inset", label: "Inset" },
          { value: "mat", label: "Mat" },
        ]}
        onChange={(style) => set({ style })}
      />
      {step.style !== "none" && (
        <>
          <Slider
            label="Width"
            unit="px"
            min={1}
            max={80}
            rest={8}
            value={toPx(step.line)}
            onChange={(px) => set({ line: px / SHOWN })}
          />
          <Colour
            label="Colour"
            value={step.color}
            colours={writing.colours}
            onChange={(color) => set({ color })}
          />
        </>
      )}
      <Slider
        label="Corners"
        unit="px"
        max={150}
        value={toPx(step.corner)}
        onChange={(px) => set({ corner: px / SHOWN })}
      />
      {step.corner > 0 && (
        <>
          <Switch
            checked={step.behind === undefined}
            onChange={(on) => set({ behind: on ? undefined : "#FFFFFF" })}
          >
            See-through corners
          </Switch>
          {step.behind === undefined ? (
            <p className="text-xs text-ink-soft">
              They suit every ground, but a photograph weighs more: it has to be PNG.
            </p>
          ) : (
            <Colour
              label="Behind them"
              value={step.behind}
              colours={writing.colours}
              onChange={(behind) => set({ behind })}
            />
          )}
        </>
      )}
    </>
  );
}

function Focus({ step, set }: Panel<"focus">) {
  const share = (key: "x" | "y", label: string) => (
    <Line label={label}>
      <NumberField
        max={100}
        value={Math.round(step[key] * 100)}
        onChange={(value) => set({ [key]: value / 100 })}
      />
    </Line>
  );
  return (
    <>
      <p className="text-ink-soft">Press on what must stay in view. Crops to a ratio begin around it.</p>
      {share("x", "Across, %")}
      {share("y", "Down, %")}
    </>
  );
}

function Lighter({ step, set }: Panel<"lighter">) {
  return (
    <>
      <Slider
        label="Quality"
        unit="%"
        min={20}
        max={95}
        rest={80}
        value={step.quality}
        onChange={(quality) => set({ quality })}
      />
      <Choice
        label="Format"
        value={step.format}
        options={[
          { value: "keep", label: "What suits" },
          { value: "jpeg", label: "JPEG" },
          { value: "png", label: "PNG" },
        ]}
        onChange={(format) => set({ format })}
      />
      <p className="text-xs text-ink-soft">Both are shown side by side below.</p>
    </>
  );
}

const PANELS: { [K in PictureStep["kind"]]: (panel: Panel<K>) => ReactNode } = {
  crop: Crop,
  rotate: Rotate,
  flip: Flip,
  resize: Resize,
  light: Light,
  tone: Tone,
  words: Words,
  pen: Pen,
  frame: Frame,
  focus: Focus,
  lighter: Lighter,
};

export const STEP_TITLES: Record<PictureStep["kind"], string> = {
  crop: "Crop",
  rotate: "Rotate",
  flip: "Flip",
  resize: "Size",
  light: "Light",
  tone: "Tone",
  words: "Words on the picture",
  pen: "Pen",
  frame: "Frame and corners",
  focus: "Focus point",
  lighter: "Lighter",
};

/** The controls of the step that is selected. */
export function StepPanel({
  step,
  onChange,
  className,
  ...facts
}: Facts & { step: PictureStep; className?: string; onChange(step: PictureStep): void }) {
  // The registry gives each kind the panel of its own.
  const Controls = PANELS[step.kind] as (panel: Panel<PictureStep["kind"]>) => ReactNode;
  return (
    <section className={clsx("space-y-3", className)} aria-label={STEP_TITLES[step.kind]}>
      <h2 className="font-semibold">{STEP_TITLES[step.kind]}</h2>
      <Controls {...facts} step={step} set={(part) => onChange({ ...step, ...part } as PictureStep)} />
    </section>
  );
}
