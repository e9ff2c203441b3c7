import { useEffect, useRef } from "react";
import type { Comparison } from "~/core/compose";
import { type Email, resolveTheme } from "~/core/email";
import { differenceMarks } from "../../review/difference-marks";
import { Drawing } from "../canvas/drawing";
import { useComposer } from "../state/store";

/** A design as this reader gets it, drawn smaller, with the parts that differ marked. */
export function VersionView({
  email,
  comparison,
  side,
  label,
}: {
  email: Email;
  comparison: Comparison;
  side: "before" | "after";
  label: string;
}) {
  const place = useRef<HTMLDivElement>(null);
  const reader = useComposer((state) => state.reader);
  const facts = useComposer((state) => state.facts);
  const { width } = resolveTheme(email.theme, facts.themes);
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    const root = element.shadowRoot ?? element.attachShadow({ mode: "open" });
    new Drawing(root).draw({ email, reader, facts, dark: false, trial: null }, { narrow: false });
    const marks = document.createElement("style");
    marks.textContent = differenceMarks(
      [...comparison.parts].filter(
        ([, difference]) => difference !== (side === "before" ? "added" : "removed"),
      ),
    );
    root.append(marks);
  }, [email, reader, facts, comparison, side]);
  const scale = 400 / (width + 40);
  return (
    <div
      className="max-h-[56vh] overflow-auto rounded-md border"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
      tabIndex={0}
      role="group"
      aria-label={label}
    >
      <div ref={place} inert style={{ width: width + 40, zoom: scale }} data-testid={`version-${side}`} />
    </div>
  );
}
