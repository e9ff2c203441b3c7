import { useEffect, useRef } from "react";
import type { Comparison, Difference } from "~/core/compose";
import { type Email, resolveTheme } from "~/core/email";
import { Drawing } from "../canvas/drawing";
import { useComposer } from "../state/store";

const EDGES: Record<Difference, string> = {
  added:
    "outline:3px solid #23703A;outline-offset:-2px;background-image:linear-gradient(#23703a14,#23703a14)",
  removed:
    "outline:3px solid #B3261E;outline-offset:-2px;background-image:linear-gradient(#b3261e14,#b3261e14)",
  changed:
    "outline:3px solid #8A5200;outline-offset:-2px;background-image:linear-gradient(#8a520014,#8a520014)",
  moved: "outline:3px dashed #7D2248;outline-offset:-2px",
};

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
    marks.textContent = [...comparison.parts]
      .filter(([, difference]) => difference !== (side === "before" ? "added" : "removed"))
      .map(([id, difference]) => `[data-node="${CSS.escape(id)}"]{${EDGES[difference]}}`)
      .join("");
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

/** What the marks mean. */
export function DifferenceList({ comparison }: { comparison: Comparison }) {
  const WORDS: Record<Difference, string> = {
    added: "Added",
    removed: "Removed",
    changed: "Changed",
    moved: "Moved",
  };
  const TONES: Record<Difference, string> = {
    added: "text-green",
    removed: "text-red",
    changed: "text-amber",
    moved: "text-mulberry",
  };
  const { words, whole } = comparison;
  if (words.length === 0 && whole.length === 0)
    return <p className="text-ink-soft">Both are the same, but perhaps for the look of rows and sections.</p>;
  return (
    <ul className="max-h-36 space-y-0.5 overflow-y-auto">
      {whole.map((what) => (
        <li key={what}>
          <span className="font-medium text-amber">Changed</span> {what}
        </li>
      ))}
      {words.map(({ id, difference, title }) => (
        <li key={`${id} ${difference}`} className="truncate">
          <span className={`font-medium ${TONES[difference]}`}>{WORDS[difference]}</span> “{title}”
        </li>
      ))}
    </ul>
  );
}
