import { useEffect } from "react";
import { contrast } from "~/core/color";
import { commands } from "~/core/compose";
import { THEMES, type Theme } from "~/core/email";
import { useComposer, useComposerStore } from "../store";
import { shownTheme } from "../theme";
import { Part } from "./part";

/** The themes: pointing at one shows the email in it, choosing one gives it to the design. */
export function ThemesPart() {
  const store = useComposerStore();
  const chosen = useComposer((state) => state.email.theme);
  const trial = useComposer((state) => state.trial);
  const shown = useComposer(shownTheme);
  const tried = (id: string | null) => {
    const next = id === chosen ? null : id;
    if (store.getState().trial !== next) store.getState().set({ trial: next });
  };
  // What was pointed at is forgotten with the list.
  useEffect(() => () => store.getState().set({ trial: null }), [store]);
  const choose = (theme: Theme) => {
    tried(null);
    if (theme.id !== chosen) store.getState().apply(commands.setTheme(theme.id), `The theme “${theme.name}”`);
  };
  return (
    <Part title="Theme">
      <div
        className="grid grid-cols-2 gap-2"
        role="radiogroup"
        aria-label="Theme"
        onPointerLeave={() => tried(null)}
        onBlur={(event) => {
          if (!event.currentTarget.contains(event.relatedTarget)) tried(null);
        }}
        onKeyDown={(event) => {
          const step = { ArrowRight: 1, ArrowDown: 2, ArrowLeft: -1, ArrowUp: -2 }[event.key];
          if (event.key === "Escape" && trial !== null) {
            event.stopPropagation();
            tried(null);
          }
          if (step === undefined) return;
          event.preventDefault();
          const entries = [...event.currentTarget.querySelectorAll<HTMLElement>("[role=radio]")];
          const at = entries.indexOf(document.activeElement as HTMLElement);
          entries[(at + step + entries.length) % entries.length]?.focus();
        }}
      >
        {THEMES.map((theme) => (
          <Swatch
            key={theme.id}
            theme={theme}
            chosen={theme.id === shownId(chosen)}
            onPoint={() => tried(theme.id)}
            onChoose={() => choose(theme)}
          />
        ))}
      </div>
      <p className="text-xs text-ink-soft" role="status">
        {trial === null ? (
          "Point at one to see the email in it. Words stay."
        ) : (
          <>
            As it would look in <strong>{shown.name}</strong>: {about(shown)}
          </>
        )}
      </p>
    </Part>
  );
}

/** A design whose theme is gone shows the plain one. */
const shownId = (id: string) => (THEMES.some((theme) => theme.id === id) ? id : THEMES[0].id);

function about({ width, light, fonts }: Theme): string {
  const first = (stack: string) => stack.split(",")[0].replaceAll("'", "");
  const type = [...new Set([first(fonts.heading), first(fonts.body)])].join(" and ");
  return `${type}, ${width} px wide, words at ${contrast(light.text, light.paper).toFixed(1)} to 1.`;
}

/** A theme as a small picture of what it does: a heading, words, and something to press. */
function Swatch({
  theme: { name, light, fonts, button },
  chosen,
  onPoint,
  onChoose,
}: {
  theme: Theme;
  chosen: boolean;
  onPoint(): void;
  onChoose(): void;
}) {
  return (
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      tabIndex={chosen ? 0 : -1}
      // Not on entering: when the panel scrolls under a pointer that rests, nothing was pointed at.
      onPointerMove={onPoint}
      onFocus={onPoint}
      onClick={onChoose}
      className="rounded-md border p-1 text-left text-xs hover:border-ink-soft aria-checked:border-mulberry aria-checked:ring-1 aria-checked:ring-mulberry"
    >
      <span
        aria-hidden
        className="flex h-14 flex-col justify-between overflow-hidden rounded-sm px-2 py-1.5"
        style={{ background: light.paper, boxShadow: `inset 0 0 0 1px ${light.table}` }}
      >
        <span
          className="truncate text-[17px]/[18px]"
          style={{ color: light.heading, fontFamily: fonts.heading, fontWeight: 600 }}
        >
          Beans
        </span>
        <span className="flex items-center justify-between gap-2">
          <span className="h-1 grow rounded-full" style={{ background: light.text, opacity: 0.55 }} />
          <span
            className="h-3 w-7"
            style={{ background: light.accent, borderRadius: Math.min(6, button.radius / 2) }}
          />
        </span>
      </span>
      <span className="mt-1 block truncate px-0.5">{name}</span>
    </button>
  );
}
