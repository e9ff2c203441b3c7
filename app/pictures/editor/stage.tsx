import { type PointerEvent, useEffect, useMemo, useRef } from "react";
import {
  type Outline,
  type PictureStep,
  preview,
  RATIOS,
  type Size,
  type StepOf,
  sizeAfter,
  thinned,
  wordsBox,
} from "~/core/pictures";
import { patch } from "../../ui/patch";
import { cropMoved, type Handle } from "./crop";

/** The px in which pictures are worked on, however large their original is. */
const WORKED_ON = 1200;

/** An original at the size it is worked on. */
export function workingSize({ width, height }: Size): Size {
  const part = Math.min(1, WORKED_ON / width);
  return { width: Math.round(width * part), height: Math.max(1, Math.round(height * part)) };
}

const turnsAround = ({ kind }: PictureStep) =>
  kind === "crop" || kind === "rotate" || kind === "flip" || kind === "frame";

/**
 * What is shown while a step is changed: all up to it, and what follows as long as it leaves everything in its place. A
 * crop is changed on what it cuts.
 */
function shownSteps(steps: readonly PictureStep[], selected: string | null): PictureStep[] {
  const at = steps.findIndex(({ id }) => id === selected);
  if (at < 0) return [...steps];
  if (steps[at].kind === "crop") return steps.slice(0, at);
  const rest = steps.slice(at + 1);
  const stop = rest.findIndex(turnsAround);
  return [...steps.slice(0, at + 1), ...(stop < 0 ? rest : rest.slice(0, stop))];
}

/** The picture as it is, with what the step that is changed needs to be drawn on it. */
export function Stage({
  picture,
  steps,
  selected,
  outlines,
  alt,
  ratio,
  pen,
  onChange,
  onRest,
}: {
  picture: { href: string } & Size;
  steps: readonly PictureStep[];
  selected: PictureStep | null;
  outlines: Readonly<Record<string, Outline>>;
  alt: string;
  /** Of a crop: width to height in px. */
  ratio: number | null;
  /** What the pen draws with. */
  pen: { color: string; width: number };
  onChange(step: PictureStep): void;
  /** Something was drawn to its end. */
  onRest(): void;
}) {
  const host = useRef<SVGSVGElement>(null);
  const shown = useMemo(() => shownSteps(steps, selected?.id ?? null), [steps, selected?.id]);
  const { size, svg } = useMemo(() => preview(picture, shown, outlines), [picture, shown, outlines]);
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    const fresh = new DOMParser().parseFromString(
      `<svg xmlns="http://www.w3.org/2000/svg">${svg}</svg>`,
      "image/svg+xml",
    ).documentElement;
    const drawing = document.createElementNS("http://www.w3.org/2000/svg", "g");
    drawing.append(...fresh.childNodes);
    const before = element.firstElementChild;
    // What keeps its shape keeps its elements: a picture that is put in anew would blink.
    if (before && patch(before, drawing, () => false)) return;
    element.replaceChildren(drawing);
  }, [svg]);
  const box = useRef<HTMLDivElement>(null);
  /** Where a pointer is, in shares of what is shown. */
  const shareOf = (event: PointerEvent) => {
    const { left, top, width, height } = box.current?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1);
    return { x: (event.clientX - left) / width, y: (event.clientY - top) / height };
  };
  const layer = { size, shareOf, onChange };
  return (
    <div className="grid min-h-0 grow place-items-center overflow-hidden p-6">
      <div
        ref={box}
        data-testid="stage"
        onPointerUp={onRest}
        className="relative max-h-full max-w-full"
        style={{
          aspectRatio: `${size.width} / ${size.height}`,
          width: `min(100%, ${Math.max(size.width, 320)}px, calc((100vh - 250px) * ${size.width / size.height}))`,
        }}
      >
        <svg
          ref={host}
          role="img"
          aria-label={alt || "The picture"}
          viewBox={`0 0 ${size.width} ${size.height}`}
          className="chequered block size-full"
        />
        {selected?.kind === "crop" && <CropLayer step={selected} ratio={ratio} {...layer} />}
        {selected?.kind === "words" && (
          <WordsLayer step={selected} outline={outlines[selected.id]} {...layer} />
        )}
        {selected?.kind === "pen" && <PenLayer step={selected} pen={pen} {...layer} />}
        {selected?.kind === "focus" && <FocusLayer step={selected} {...layer} />}
      </div>
    </div>
  );
}

interface Layer {
  size: Size;
  shareOf(event: PointerEvent): { x: number; y: number };
  onChange(step: PictureStep): void;
}

const HANDLES: readonly [Handle, string][] = [
  ["nw", "top-0 left-0 cursor-nwse-resize"],
  ["n", "top-0 left-1/2 cursor-ns-resize"],
  ["ne", "top-0 left-full cursor-nesw-resize"],
  ["e", "top-1/2 left-full cursor-ew-resize"],
  ["se", "top-full left-full cursor-nwse-resize"],
  ["s", "top-full left-1/2 cursor-ns-resize"],
  ["sw", "top-full left-0 cursor-nesw-resize"],
  ["w", "top-1/2 left-0 cursor-ew-resize"],
];

/** Follows a pointer from a press to its end. */
function useDragged(onMove: (event: PointerEvent) => void) {
  const down = useRef(false);
  return {
    onPointerDown(event: PointerEvent) {
      if (event.button !== 0) return;
      event.preventDefault();
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      down.current = true;
    },
    onPointerMove: (event: PointerEvent) => down.current && onMove(event),
    onPointerUp() {
      down.current = false;
    },
    onPointerCancel() {
      down.current = false;
    },
  };
}

function CropLayer({
  step,
  ratio,
  size,
  shareOf,
  onChange,
}: Layer & { step: StepOf<"crop">; ratio: number | null }) {
  const last = useRef({ x: 0, y: 0 });
  const start = (event: PointerEvent) => {
    last.current = shareOf(event);
  };
  const percent = (share: number) => `${share * 100}%`;
  const corner =
    step.shape === "round"
      ? "50%"
      : step.shape === "arch"
        ? "50% 50% 0 0 / 60% 60% 0 0"
        : step.shape === "leaf"
          ? "0 40% 0 40%"
          : 0;
  const move = (handle: Handle) => (event: PointerEvent) => {
    const now = shareOf(event);
    const inShares = ratio === null ? null : (ratio * size.height) / size.width;
    const moved = cropMoved(step, handle, now.x - last.current.x, now.y - last.current.y, inShares);
    last.current = now;
    onChange({ ...step, ...moved });
  };
  return (
    <div className="absolute inset-0 overflow-visible">
      <div className="absolute inset-0 overflow-hidden">
        <div
          className="absolute outline-[4000px] outline-ink/55"
          style={{
            left: percent(step.x),
            top: percent(step.y),
            width: percent(step.width),
            height: percent(step.height),
            borderRadius: corner,
            boxShadow: "0 0 0 4000px rgb(30 27 36 / 0.55)",
          }}
        />
      </div>
      <Dragged
        label="The part that is kept"
        className="absolute cursor-move border border-white outline-1 outline-mulberry"
        style={{
          left: percent(step.x),
          top: percent(step.y),
          width: percent(step.width),
          height: percent(step.height),
        }}
        onStart={start}
        onMove={move("all")}
      >
        {HANDLES.map(([handle, place]) => (
          <Dragged
            key={handle}
            label={`Edge ${handle}`}
            className={`absolute size-3.5 -translate-1/2 rounded-full border-2 border-mulberry bg-white ${place}`}
            onStart={start}
            onMove={move(handle)}
          />
        ))}
      </Dragged>
    </div>
  );
}

function Dragged({
  label,
  className,
  style,
  onStart,
  onMove,
  children,
}: {
  label: string;
  className: string;
  style?: React.CSSProperties;
  onStart(event: PointerEvent): void;
  onMove(event: PointerEvent): void;
  children?: React.ReactNode;
}) {
  const { onPointerDown, ...rest } = useDragged(onMove);
  return (
    <div
      data-drag={label}
      className={`touch-none ${className}`}
      style={style}
      onPointerDown={(event) => {
        onStart(event);
        onPointerDown(event);
      }}
      {...rest}
    >
      {children}
    </div>
  );
}

function WordsLayer({
  step,
  outline,
  size,
  shareOf,
  onChange,
}: Layer & { step: StepOf<"words">; outline: Outline | undefined }) {
  const last = useRef({ x: 0, y: 0 });
  if (!outline) return null;
  const box = wordsBox(step, outline, size);
  return (
    <Dragged
      label="The words"
      className="absolute cursor-move outline-1 outline-offset-4 outline-mulberry"
      style={{
        left: `${(box.left / size.width) * 100}%`,
        top: `${(box.top / size.height) * 100}%`,
        width: `${(box.width / size.width) * 100}%`,
        height: `${(box.height / size.height) * 100}%`,
      }}
      onStart={(event) => {
        last.current = shareOf(event);
      }}
      onMove={(event) => {
        const now = shareOf(event);
        const within = (value: number) => Math.min(1, Math.max(0, value));
        onChange({
          ...step,
          x: within(step.x + now.x - last.current.x),
          y: within(step.y + now.y - last.current.y),
        });
        last.current = now;
      }}
    />
  );
}

function PenLayer({
  step,
  pen,
  shareOf,
  onChange,
}: Layer & { step: StepOf<"pen">; pen: { color: string; width: number } }) {
  const drawing = useRef<number[] | null>(null);
  const before = useRef(step.strokes);
  const draw = (points: number[]) => onChange({ ...step, strokes: [...before.current, { ...pen, points }] });
  return (
    <div
      data-drag="Draw here"
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        if (event.button !== 0 || step.strokes.length >= 200) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const { x, y } = shareOf(event);
        before.current = step.strokes;
        drawing.current = [x, y];
        draw([x, y]);
      }}
      onPointerMove={(event) => {
        const points = drawing.current;
        if (!points || points.length >= 4000) return;
        const { x, y } = shareOf(event);
        const out = (value: number) => Math.min(1.5, Math.max(-0.5, value));
        points.push(out(x), out(y));
        draw(thinned(points));
      }}
      onPointerUp={() => {
        drawing.current = null;
      }}
      onPointerCancel={() => {
        drawing.current = null;
      }}
    />
  );
}

function FocusLayer({ step, shareOf, onChange }: Layer & { step: StepOf<"focus"> }) {
  const set = (event: PointerEvent) => {
    const { x, y } = shareOf(event);
    const within = (value: number) => Math.min(1, Math.max(0, value));
    onChange({ ...step, x: within(x), y: within(y) });
  };
  return (
    <Dragged label="The focus point" className="absolute inset-0 cursor-crosshair" onStart={set} onMove={set}>
      <span
        className="pointer-events-none absolute size-7 -translate-1/2 rounded-full border-2 border-white bg-mulberry/40 outline-2 outline-mulberry"
        style={{ left: `${step.x * 100}%`, top: `${step.y * 100}%` }}
      />
    </Dragged>
  );
}

/** The ratio that a crop has, where it is one of those that are offered. */
export function ratioOf(step: StepOf<"crop">, before: Size): number | null {
  const { width, height } = sizeAfter(before, step);
  const whole = width === before.width && height === before.height;
  return whole
    ? null
    : (RATIOS.find(({ ratio }) => ratio !== null && Math.abs(ratio - width / height) < 0.02)?.ratio ?? null);
}
