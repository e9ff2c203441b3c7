/** The email in a frame, in which a press marks a block, a drag marks words, and pins show what is said of what. */
import { useEffect, useRef, useState } from "react";
import type { Difference } from "~/core/compose";
import type { Place, Talk } from "~/server/review/comments";
import { counted } from "../ui/time";
import { differenceMarks } from "./difference-marks";
import { quoteOf, rangeOf } from "./quotes";

/** A pin: what it is at, and the talks that it stands for. */
export interface Pin {
  block: string;
  number: number;
  talks: readonly Talk[];
}

const STYLE = `a{pointer-events:none}[data-node]{cursor:pointer}
[data-node]:hover{outline:1px solid #7d2248;outline-offset:-1px}
::highlight(said){background-color:#fbe7a8;color:#1e1b24}::highlight(meant){background-color:#f3c14b;color:#1e1b24}`;
/** Marks words in a document without changing it (CSS Custom Highlight API); browsers that cannot, do not. */
function highlight(view: Window & typeof globalThis, name: string, ranges: readonly Range[]): void {
  if (!view.CSS?.highlights) return;
  if (ranges.length === 0) view.CSS.highlights.delete(name);
  else view.CSS.highlights.set(name, new view.Highlight(...ranges));
}

export function ReviewFrame({
  src,
  title,
  width,
  dark,
  pins,
  meant,
  changed,
  onMean,
  onPin,
}: {
  src: string;
  title: string;
  /** Of its window, in px; it is made smaller where there is no room for it. */
  width: number;
  dark: boolean;
  pins: readonly Pin[];
  /** What is spoken of just now. */
  meant: Place | null;
  /** What has changed, by the id of the block. */
  changed: ReadonlyMap<string, Difference>;
  onMean(place: Place): void;
  onPin(pin: Pin): void;
}) {
  const around = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  const mean = useRef(onMean);
  mean.current = onMean;
  const [loaded, setLoaded] = useState(0);
  const [room, setRoom] = useState(width);
  const [height, setHeight] = useState(600);
  const [tops, setTops] = useState<ReadonlyMap<string, number>>(new Map());

  useEffect(() => {
    const element = around.current;
    if (!element) return;
    const watch = new ResizeObserver(([{ contentRect }]) => setRoom(contentRect.width));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  // What came with the page may have loaded before anybody could hear of it.
  useEffect(() => {
    if (frame.current?.contentDocument?.querySelector("[data-node]")) setLoaded((it) => it + 1);
  }, []);

  useEffect(() => {
    const inside = frame.current?.contentDocument;
    if (!inside?.body || loaded === 0) return;
    const style = inside.createElement("style");
    style.textContent = STYLE;
    inside.head.append(style);
    const blockAt = (target: Node | null) =>
      (target instanceof inside.defaultView!.Element ? target : target?.parentElement)?.closest<HTMLElement>(
        "[data-node]",
      );
    const marked = () => {
      const selection = inside.getSelection();
      if (!selection || selection.isCollapsed || selection.rangeCount === 0) return false;
      const range = selection.getRangeAt(0);
      const block = blockAt(range.startContainer);
      // What goes over several blocks is of the first.
      if (block && !block.contains(range.endContainer)) range.setEnd(block, block.childNodes.length);
      const quote = block && quoteOf(range, block);
      if (block && quote) mean.current({ block: block.dataset.node ?? null, quote });
      return true;
    };
    const press = (event: Event) => {
      event.preventDefault();
      if (marked()) return;
      const block = blockAt(event.target as Node);
      if (block) mean.current({ block: block.dataset.node ?? null, quote: null });
    };
    inside.addEventListener("click", press);
    const measure = () => {
      setHeight(Math.ceil(inside.documentElement.getBoundingClientRect().height));
      const found = new Map<string, number>();
      for (const element of inside.querySelectorAll<HTMLElement>("[data-node]")) {
        const box = element.getBoundingClientRect();
        const id = element.dataset.node ?? "";
        if (box.height > 0 && !found.has(id)) found.set(id, box.top);
      }
      setTops(found);
    };
    const watch = new ResizeObserver(measure);
    watch.observe(inside.body);
    measure();
    return () => {
      inside.removeEventListener("click", press);
      watch.disconnect();
      style.remove();
    };
  }, [loaded]);

  useEffect(() => {
    const view = frame.current?.contentWindow as (Window & typeof globalThis) | null | undefined;
    const inside = frame.current?.contentDocument;
    if (!view || !inside?.body || loaded === 0) return;
    const rangeIn = ({ block, quote }: Place) => {
      const element = block !== null && inside.querySelector(`[data-node="${CSS.escape(block)}"]`);
      return element && quote ? rangeOf(quote, element) : null;
    };
    const there = (range: Range | null) => range !== null;
    highlight(
      view,
      "said",
      pins
        .flatMap(({ talks }) => talks)
        .map(rangeIn)
        .filter(there),
    );
    highlight(view, "meant", [meant && rangeIn(meant)].filter(there));
    const style = inside.createElement("style");
    style.textContent =
      differenceMarks(changed) +
      (meant?.block
        ? `[data-node="${CSS.escape(meant.block)}"]{outline:2px solid #7d2248!important;outline-offset:-2px}`
        : "");
    inside.head.append(style);
    return () => style.remove();
  }, [loaded, pins, meant, changed]);

  const meantBlock = meant?.block ?? null;
  useEffect(() => {
    const top = meantBlock === null ? undefined : tops.get(meantBlock);
    const element = around.current;
    if (top === undefined || !element) return;
    // Only where it is out of view.
    const at = element.getBoundingClientRect().top + top * Math.min(1, room / width);
    if (at < 80 || at > window.innerHeight - 120)
      element
        .querySelector(`[data-pin="${CSS.escape(meantBlock ?? "")}"], [data-meant]`)
        ?.scrollIntoView({ block: "center" });
  }, [meantBlock, tops, room, width]);

  const scale = Math.min(1, room / width);
  return (
    <div ref={around} className="relative">
      <div
        className="relative mx-auto overflow-hidden rounded-lg border bg-white"
        style={{ width: width * scale, height: height * scale }}
      >
        <iframe
          ref={frame}
          title={title}
          src={src}
          sandbox="allow-same-origin"
          scrolling="no"
          onLoad={() => setLoaded((it) => it + 1)}
          className="block origin-top-left border-0"
          style={{
            width,
            height,
            transform: scale < 1 ? `scale(${scale})` : undefined,
            colorScheme: dark ? "dark" : "light",
          }}
        />
        {meantBlock !== null && tops.has(meantBlock) && (
          <span data-meant className="absolute" style={{ top: (tops.get(meantBlock) ?? 0) * scale }} />
        )}
        {pins.map((pin) => {
          const top = tops.get(pin.block);
          if (top === undefined) return null;
          const open = pin.talks.some(({ resolved }) => !resolved);
          return (
            <button
              key={pin.block}
              type="button"
              data-pin={pin.block}
              aria-label={`Pin ${pin.number}: ${counted(pin.talks.length, "comment")}`}
              onClick={() => onPin(pin)}
              className={`absolute right-1 grid h-6 min-w-6 place-items-center rounded-full px-1.5 text-xs font-semibold text-white shadow-md ring-2 ring-white ${open ? "bg-mulberry" : "bg-ink-soft"}`}
              style={{ top: top * scale + 4 }}
            >
              {pin.number}
            </button>
          );
        })}
      </div>
    </div>
  );
}
