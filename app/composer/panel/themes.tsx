import { SlidersHorizontal } from "lucide-react";
import { useEffect } from "react";
import { z } from "zod";
import { contrast } from "~/core/color";
import { commands } from "~/core/compose";
import { THEMES, type Theme, ThemeSchema } from "~/core/email";
import { Button } from "../../ui/button";
import { FileButton } from "../../ui/file-button";
import { useNotify } from "../../ui/notices";
import { useAddress } from "../../ui/use-address";
import { Part } from "../controls/part";
import { type Composer, useComposer, useComposerStore } from "../state/store";
import { shownTheme, useTheme } from "../state/theme";

/** The themes: pointing at one shows the email in it, choosing one gives it to the design. */
export function ThemesPart() {
  const store = useComposerStore();
  const chosen = useComposer((state) => state.email.theme);
  const trial = useComposer((state) => state.trial);
  const shown = useComposer(shownTheme);
  const own = useComposer((state) => state.facts.ownThemes);
  const theme = useTheme();
  const notify = useNotify();
  const tried = (one: Theme | null) => {
    const next = one?.id === chosen ? null : one;
    if (store.getState().trial !== next) store.getState().set({ trial: next });
  };
  // An older version of one's own theme stands for the one that can be chosen.
  const all = [...own, ...THEMES];
  const marked =
    all.find(({ id }) => id === theme.id) ?? all.find(({ id }) => familyOf(id) === familyOf(theme.id));
  const bringIn = async (file: File) => {
    const read = ThemeFileSchema.safeParse(
      await file
        .text()
        .then(JSON.parse)
        .catch(() => null),
    );
    if (!read.success) {
      notify({
        text: `“${file.name}” is not a theme that was kept as a file here. Nothing has changed.`,
        bad: true,
      });
      return;
    }
    store.getState().set({ making: { of: read.data.theme, own: false }, trial: read.data.theme });
  };
  // What was pointed at is forgotten with the list.
  useEffect(
    () => () => {
      if (!store.getState().making) store.getState().set({ trial: null });
    },
    [store],
  );
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
        {all.map((one) => (
          <Swatch
            key={one.id}
            theme={one}
            chosen={one === marked}
            onPoint={() => tried(one)}
            onChoose={() => choose(one)}
          />
        ))}
      </div>
      <ThemeStanding chosen={chosen} theme={theme} all={all} onChoose={choose} />
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => makeTheme(store, theme)}>
          <SlidersHorizontal className="size-4" aria-hidden /> Change this theme
        </Button>
        <FileButton label="Bring in…" accept=".json,application/json" onFile={(file) => void bringIn(file)} />
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

/** Says so where an email's theme cannot be chosen any more as it is, and what can be done. */
function ThemeStanding({
  chosen,
  theme,
  all,
  onChoose,
}: {
  chosen: string;
  theme: Theme;
  all: readonly Theme[];
  onChoose(theme: Theme): void;
}) {
  if (all.some(({ id }) => id === chosen)) return null;
  const newest = all.find(({ id }) => familyOf(id) === familyOf(chosen));
  const gone = theme.id !== chosen;
  return (
    <div role="status" className="space-y-2 rounded-md bg-amber-wash px-3 py-2 text-amber">
      <p>
        {newest
          ? `This email uses an earlier version of “${theme.name}”, and keeps it.`
          : gone
            ? `The theme of this email is not here. It is shown in “${theme.name}”; choose another.`
            : `“${theme.name}” was deleted. This email keeps it; to have it in the list again, change it and keep it under a name.`}
      </p>
      {newest && <Button onClick={() => onChoose(newest)}>Take the newest</Button>}
    </div>
  );
}

/** What all versions of a theme have in common. */
const familyOf = (id: string) => id.split("@")[0];

/** Begins to change a theme of one's own, or a new one that begins as one of ours. */
function makeTheme(store: Composer, of: Theme): void {
  const { facts, set } = store.getState();
  const own = facts.ownThemes.some(({ id }) => familyOf(id) === familyOf(of.id));
  set({ making: { of, own }, trial: own ? of : { ...of, name: `My ${of.name.toLowerCase()}` } });
}

/** What the address asks for once: `?theme=<id>` opens the making of that theme, beside this email. */
export function useAskedTheme(store: Composer): void {
  const [params, change] = useAddress();
  const asked = params.get("theme");
  useEffect(() => {
    if (asked === null) return;
    const { facts } = store.getState();
    const theme = [...facts.ownThemes, ...THEMES].find(({ id }) => id === asked);
    if (theme) makeTheme(store, theme);
    change({ theme: null });
  }, [asked, change, store]);
}

/** A theme as a file. */
const ThemeFileSchema = z.object({ septimaTheme: z.literal(1), theme: ThemeSchema });

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
