import { useState } from "react";

/**
 * An email as it is, small: a frame that may do nothing but be looked at. When its address changes the old picture
 * stays until the new one is there.
 */
export function TruePicture({
  title,
  src,
  width,
  shown,
  height,
  eager = false,
}: {
  title: string;
  src: string;
  /** How wide the email's window is, in px. */
  width: number;
  /** How wide and high it is shown, in px. */
  shown: number;
  height: number;
  eager?: boolean;
}) {
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
          loading={eager ? "eager" : "lazy"}
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
