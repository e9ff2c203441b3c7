import { type ReactNode, useState } from "react";
import { HexColorPicker } from "react-colorful";
import { contrast } from "~/core/color";
import { FILL_ROLES } from "~/core/email";
import { darkInk, type Ground, lightInk } from "~/core/markup";
import { Popover } from "../../ui/floating";
import { HexInput } from "../../ui/hex-input";
import { lately } from "../../ui/lately";
import { useComposer } from "../state/store";
import { useTheme } from "../state/theme";

const LATELY = lately("septima colours", 9);

interface Choice {
  label: string;
  value: string | undefined;
  /** The role that the theme's colour was chosen by. */
  role?: (typeof FILL_ROLES)[number];
  against?: Ground;
  /** Whether the colour shown is the theme's, which has its own in dark. */
  themed?: boolean;
  /** Whether a part stands on it, which may be a colour of the theme's by its role. */
  fills?: boolean;
  onChange(value: string): void;
}

/** What the theme's colours are called that parts can stand on. */
export const ROLE_LABELS = { table: "Around it", accent: "Buttons", heading: "Headings" } as const;

/**
 * A colour from the theme, from those used last, by its six digits, or by the picker. Contrast against what it stands
 * on is said while choosing.
 */
export function ColourPopover({ children, ...choice }: Choice & { children: ReactNode }) {
  const { label, value } = choice;
  return (
    <Popover
      label={label}
      className="w-60 space-y-2.5"
      onOpen={(open) => !open && value && LATELY.note(value.toUpperCase())}
      button={children}
    >
      <ColourChoice {...choice} />
    </Popover>
  );
}

function ColourChoice({ label, value, role, against, themed = false, fills = false, onChange }: Choice) {
  const theme = useTheme();
  const [recent] = useState(() => LATELY.all().filter((it) => /^#[0-9A-F]{6}$/.test(it)));
  const colours = useComposer((state) => state.facts.brand.colours);
  const brand = [...new Set(colours?.map(({ color }) => color.toUpperCase()))];
  const own = [...new Set(Object.values(theme.light))];
  const row = (title: string, colours: readonly string[]) => (
    <div>
      <p className="mb-1 text-xs text-ink-soft">{title}</p>
      <div className="grid grid-cols-9 gap-1">
        {colours.map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={`${label} ${colour}`}
            title={colour}
            aria-pressed={role === undefined && colour === value?.toUpperCase()}
            onClick={() => onChange(colour)}
            className="size-5.5 rounded-md border border-black/20 aria-pressed:ring-2 aria-pressed:ring-mulberry"
            style={{ background: colour }}
          />
        ))}
      </div>
    </div>
  );
  return (
    <>
      {fills && (
        <div>
          <p className="mb-1 text-xs text-ink-soft">Follows the theme</p>
          <div className="grid grid-cols-2 gap-1">
            {FILL_ROLES.map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={one === role}
                onClick={() => onChange(one)}
                className="flex items-center gap-1.5 rounded-md border px-1.5 py-1 text-xs aria-pressed:ring-2 aria-pressed:ring-mulberry"
              >
                <span
                  aria-hidden
                  className="size-3.5 rounded-sm border border-black/20"
                  style={{ background: theme.light[one] }}
                />
                {ROLE_LABELS[one]}
              </button>
            ))}
          </div>
        </div>
      )}
      {brand.length > 0 && row("From the brand", brand)}
      {row("From the theme", own)}
      {recent.length > 0 && row("Used last", recent)}
      <HexColorPicker
        className="w-full!"
        color={(value ?? "#000000").toLowerCase()}
        onChange={(colour) => onChange(colour.toUpperCase())}
      />
      <div className="flex items-center gap-2">
        <span
          className="size-8 shrink-0 rounded-md border border-black/20"
          style={{ background: value ?? "transparent" }}
        />
        <HexInput label={`${label}, six digits`} value={value} onChange={onChange} />
      </div>
      {against && value && <Readable color={value} ground={against} themed={themed} />}
    </>
  );
}

/** How well a colour can be read where it stands, and what becomes of it in dark. */
function Readable({ color, ground, themed }: { color: string; ground: Ground; themed: boolean }) {
  const ratio = contrast(color, ground.light);
  const light = lightInk(color, ground);
  const dark = darkInk(color, ground);
  return (
    <div className="space-y-1 text-xs" role="status">
      <p className={ratio < 4.5 ? "text-amber" : "text-ink-soft"}>
        Contrast {ratio.toFixed(1)} to 1{ratio < 4.5 && ", wanted 4.5"}
        {light !== color && `. Nobody could see it there, so ${light} is shown.`}
      </p>
      {themed ? (
        <p className="text-ink-soft">In dark the theme’s own colour</p>
      ) : (
        <p className="flex items-center gap-1.5 text-ink-soft" data-testid="in-dark">
          <span
            className="grid h-5 w-7 place-items-center rounded-sm border border-black/20 text-[11px] font-semibold"
            style={{ background: ground.dark, color: dark }}
            aria-hidden
          >
            Aa
          </span>
          In dark {dark === color ? "it stays" : dark}, {contrast(dark, ground.dark).toFixed(1)} to 1
        </p>
      )}
    </div>
  );
}
