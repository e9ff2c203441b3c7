import { useMemo } from "react";
import { clearOneOffs, type LookKind, type OneOff, oneOffsOf } from "~/core/compose";
import { FONTS } from "~/core/email";
import { Button } from "../../ui/button";
import { counted } from "../../ui/time";
import { Part } from "../controls/part";
import { useComposer, useComposerStore } from "../state/store";
import { useTheme } from "../state/theme";

const NAMES: Record<LookKind, string> = {
  words: "Words",
  ground: "Ground",
  face: "Face",
  edge: "Edge",
  size: "Size",
  font: "Font",
  corners: "Corners",
  inside: "Inside",
};

/** How many are listed before the rest is only counted. */
const MOST = 12;

/** Looks that are not the theme's, each with its places and a way back to the theme. */
export function OneOffsPart() {
  const store = useComposerStore();
  const email = useComposer((state) => state.resting);
  const theme = useTheme();
  const all = useMemo(() => oneOffsOf(email, theme), [email, theme]);
  if (all.length === 0) return null;
  const apply = (sought?: OneOff) =>
    store
      .getState()
      .apply(
        clearOneOffs(sought),
        sought ? `The theme’s look for ${sought.value}` : "The theme’s look everywhere",
      );
  const join = (one: OneOff) =>
    one.twin && store.getState().apply(clearOneOffs(one, one.twin.raw), `${one.twin.value} for ${one.value}`);
  /** Selects the first place, and from a place that has it the next. */
  const show = ({ places }: OneOff) => {
    const { selection, select } = store.getState();
    const ids = [...new Set(places)];
    select(ids[(ids.indexOf(selection ?? "") + 1) % ids.length]);
  };
  return (
    <Part
      title="One-offs"
      aside={
        <Button kind="quiet" className="min-h-6! px-1.5! text-xs" onClick={() => apply()}>
          Use the theme’s
        </Button>
      }
    >
      <ul aria-label="One-offs" className="space-y-1.5">
        {all.slice(0, MOST).map((one) => (
          <li key={`${one.kind} ${one.value}`} className="flex items-center gap-2">
            <button
              type="button"
              className="flex min-w-0 grow items-center gap-2 rounded px-1 py-0.5 text-left hover:bg-black/5"
              title="Select where it is"
              onClick={() => show(one)}
            >
              <Sample value={one.value} />
              <span className="min-w-0">
                <span className="block truncate">
                  {NAMES[one.kind]} <span className="text-ink-soft">{valueWords(one.value)}</span>
                </span>
                <span className="block text-xs text-ink-soft">
                  {counted(one.places.length, "place")}
                  {one.hair !== null &&
                    (one.hair === one.value
                      ? ", as the theme’s now"
                      : `, a hair from the theme’s ${one.hair}`)}
                  {one.hair === null && one.twin && `, a hair from ${one.twin.value}`}
                </span>
              </span>
            </button>
            {one.hair === null && one.twin && (
              <Button
                kind="quiet"
                className="min-h-6! px-1.5! text-xs"
                aria-label={`${one.twin.value} for ${NAMES[one.kind]} ${valueWords(one.value)}`}
                onClick={() => join(one)}
              >
                Join
              </Button>
            )}
            <Button
              kind="quiet"
              className="min-h-6! px-1.5! text-xs"
              aria-label={`The theme’s for ${NAMES[one.kind]} ${valueWords(one.value)}`}
              onClick={() => apply(one)}
            >
              Theme’s
            </Button>
          </li>
        ))}
      </ul>
      {all.length > MOST && <p className="text-xs text-ink-soft">and {all.length - MOST} more</p>}
    </Part>
  );
}

const valueWords = (value: string) => FONTS.find(({ key }) => key === value)?.name ?? value;

/** The colour itself, where it is one. */
function Sample({ value }: { value: string }) {
  const color = /#[0-9A-F]{6}/.exec(value)?.[0];
  if (!color) return null;
  return <span aria-hidden className="size-5 shrink-0 rounded-sm border" style={{ background: color }} />;
}
