import { useEffect, useRef, useState } from "react";
import { inTurn } from "./turns";

const AROUND = ":host{all:initial;display:block}html{height:100%}body{min-height:100%}";

/** What was fetched, by address, as long as it is among the latest. */
const fetched = new Map<string, Promise<string>>();
const KEPT = 120;

function messageAt(src: string): Promise<string> {
  const known = fetched.get(src);
  if (known) return known;
  const asked = fetch(src).then(async (answer) => {
    if (!answer.ok) throw new Error(`${answer.status}`);
    return answer.text();
  });
  fetched.set(src, asked);
  asked.catch(() => fetched.delete(src));
  for (const oldest of fetched.keys()) {
    if (fetched.size <= KEPT) break;
    fetched.delete(oldest);
  }
  return asked;
}

/**
 * An email as it is, small: the message itself in a shadow root of its own, drawn when it comes into view and there is
 * a moment for it. A frame for each would cost a window for each, which a page of thirty feels. The message comes
 * without what could act or fetch (`pictureAnswer`), the page's own policy holds, and nothing in it can be reached.
 * When its address changes the old picture stays until the new one is there.
 */
export function TruePicture({
  title,
  src,
  width,
  shown,
  height,
}: {
  title: string;
  src: string;
  /** How wide the email's window is, in px. */
  width: number;
  /** How wide and high it is shown, in px. */
  shown: number;
  height: number;
}) {
  const host = useRef<HTMLSpanElement>(null);
  const root = useRef<ShadowRoot>(null);
  const [drawn, setDrawn] = useState<string | null>(null);
  const [problem, setProblem] = useState(false);
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    root.current ??= element.attachShadow({ mode: "closed" });
    const shadow = root.current;
    let gone = false;
    let unturn = () => {};
    const put = (html: string) => {
      if (gone) return;
      unturn = inTurn(() => {
        const style = document.createElement("style");
        style.textContent = AROUND;
        const message = document.adoptNode(
          new DOMParser().parseFromString(html, "text/html").documentElement,
        );
        shadow.replaceChildren(style, message);
        // Laid out within the turn, so that the turn knows what it took.
        message.getBoundingClientRect();
        setDrawn(src);
        setProblem(false);
      });
    };
    const draw = () => messageAt(src).then(put, () => !gone && setProblem(true));
    const watch = new IntersectionObserver(
      (entries) => {
        unturn();
        if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
        unturn = inTurn(() => {
          watch.disconnect();
          void draw();
        });
      },
      { rootMargin: "300px" },
    );
    watch.observe(element);
    return () => {
      gone = true;
      unturn();
      watch.disconnect();
    };
  }, [src]);
  const scale = shown / width;
  return (
    <span className="relative block overflow-hidden bg-white contain-strict" style={{ width: shown, height }}>
      {problem && (
        <span className="absolute inset-0 grid place-items-center p-2 text-center text-xs text-ink-soft">
          no picture
        </span>
      )}
      <span
        ref={host}
        role="img"
        aria-label={title}
        data-drawn={drawn ?? undefined}
        inert
        className="pointer-events-none absolute top-0 left-0 block origin-top-left overflow-hidden"
        style={{ width, height: height / scale, transform: `scale(${scale})` }}
      />
    </span>
  );
}

/** The same in a window of its own, which the message's rules for phones look at. */
export function FramedPicture({ title, src, width, shown, height }: Parameters<typeof TruePicture>[0]) {
  const [ready, setReady] = useState(src);
  const scale = shown / width;
  const sources = ready === src ? [src] : [ready, src];
  return (
    <span className="relative block overflow-hidden bg-white" style={{ width: shown, height }}>
      {sources.map((one) => (
        <iframe
          key={one}
          title={title}
          src={one}
          sandbox="allow-same-origin"
          scrolling="no"
          tabIndex={-1}
          onLoad={() => one === src && setReady(src)}
          className="pointer-events-none absolute top-0 left-0 origin-top-left border-0"
          style={{
            width,
            height: height / scale,
            transform: `scale(${scale})`,
            visibility: one === ready ? "visible" : "hidden",
          }}
        />
      ))}
    </span>
  );
}
