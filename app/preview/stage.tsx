/** The email in frames as wide as devices are, or as wide as one drags it. */
import { useState } from "react";

export const WIDTHS = {
  all: { label: "Side by side", width: 0 },
  desktop: { label: "Desktop", width: 720 },
  tablet: { label: "Tablet", width: 768 },
  phone: { label: "Phone", width: 360 },
  free: { label: "Free", width: 0 },
} as const;
export type WidthName = keyof typeof WIDTHS;

const TOGETHER = [
  { name: "desktop", height: 900 },
  { name: "tablet", height: 900 },
  { name: "phone", height: 740 },
] as const;
/** How much smaller they stand side by side. */
const SCALE = 0.46;
/** How wide a free frame may be, and begins, in px. */
const FREE = { least: 240, start: 480, most: 1000, step: 10 };

export function Stage({ html, width, dark }: { html: string; width: WidthName; dark: boolean }) {
  const [free, setFree] = useState<number>(FREE.start);
  const [dragging, setDragging] = useState(false);
  // What the machine itself prefers has no say in it.
  const colorScheme = dark ? "dark" : "light";
  if (width === "all")
    return (
      <div className="flex items-start gap-5">
        {TOGETHER.map(({ name, height }) => {
          const device = WIDTHS[name];
          return (
            <figure key={name} className="shrink-0" style={{ width: device.width * SCALE }}>
              <figcaption className="mb-1 text-ink-soft">
                {device.label}, {device.width} px
              </figcaption>
              <div className="overflow-hidden rounded-lg border bg-white" style={{ height: height * SCALE }}>
                <iframe
                  title={`The email on a ${device.label.toLowerCase()}`}
                  sandbox=""
                  srcDoc={html}
                  className="origin-top-left border-0"
                  style={{ width: device.width, height, transform: `scale(${SCALE})`, colorScheme }}
                />
              </div>
            </figure>
          );
        })}
      </div>
    );
  const shown = width === "free" ? free : WIDTHS[width].width;
  return (
    <figure className="relative h-full w-max max-w-full" style={{ paddingRight: width === "free" ? 14 : 0 }}>
      <figcaption className="mb-1 text-ink-soft">
        {WIDTHS[width].label}, <span data-testid="width">{shown}</span> px
      </figcaption>
      <iframe
        title={`The email, ${shown} px wide`}
        sandbox=""
        srcDoc={html}
        className="block h-[calc(100%-24px)] max-w-full rounded-lg border bg-white"
        // A frame would take what moves over it for its own.
        style={{ width: shown, colorScheme, pointerEvents: dragging ? "none" : undefined }}
      />
      {width === "free" && <Edge value={free} onChange={setFree} onDrag={setDragging} />}
    </figure>
  );
}

/** The right edge of a free frame: dragged, or moved by the arrow keys. */
function Edge({
  value,
  onChange,
  onDrag,
}: {
  value: number;
  onChange(value: number): void;
  onDrag(dragging: boolean): void;
}) {
  const within = (next: number) => onChange(Math.min(FREE.most, Math.max(FREE.least, Math.round(next))));
  const drag = (x: number) => {
    const move = (event: PointerEvent) => within(value + event.clientX - x);
    const end = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
      onDrag(false);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    onDrag(true);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Width"
      aria-orientation="horizontal"
      aria-valuemin={FREE.least}
      aria-valuemax={FREE.most}
      aria-valuenow={value}
      aria-valuetext={`${value} px`}
      className="absolute top-6 right-0 bottom-0 flex w-3 cursor-ew-resize touch-none items-center justify-center rounded-md bg-line hover:bg-mulberry focus-visible:bg-mulberry"
      onPointerDown={(event) => {
        // Nothing is selected on the way.
        event.preventDefault();
        event.currentTarget.focus();
        drag(event.clientX);
      }}
      onKeyDown={(event) => {
        const by = { ArrowRight: FREE.step, ArrowLeft: -FREE.step, PageUp: 100, PageDown: -100 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        within(value + by);
      }}
    >
      <span className="h-8 w-0.5 rounded bg-ink-soft/60" aria-hidden />
    </div>
  );
}
