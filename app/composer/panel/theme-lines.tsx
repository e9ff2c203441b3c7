import { TriangleAlert } from "lucide-react";
import {
  type BrandFont,
  brandFont,
  FONTS,
  type Theme,
  type ThemeField,
  themeBounds,
  themePairs,
  valueAt,
  WEB_FONTS,
  withValueAt,
} from "~/core/email";
import { Choose } from "../../ui/choose";
import { type Editing, Line } from "../../ui/form";
import { HexInput } from "../../ui/hex-input";
import { Switch } from "../../ui/switch";
import { ColourPopover } from "../controls/colour";
import { useComposer } from "../state/store";
import { NumberLine } from "./lines";

export type Scheme = "light" | "dark";

export function ColourOf({ label, value, onChange }: Editing<string> & { label: string }) {
  return (
    <Line label={label}>
      <div className="flex items-center gap-2">
        <ColourPopover label={label} value={value} onChange={onChange}>
          <button
            type="button"
            aria-label={`Choose the colour of ${label.toLowerCase()}`}
            className="size-8 shrink-0 rounded-md border p-0.5"
          >
            <span
              className="block size-full rounded-sm border border-black/10"
              style={{ background: value }}
            />
          </button>
        </ColourPopover>
        <HexInput value={value} onChange={onChange} />
      </div>
    </Line>
  );
}

/** How well each colour can be read where it stands. */
export function Pairs({ theme, scheme }: { theme: Theme; scheme: Scheme }) {
  return (
    <ul aria-label="Contrast of every pair" className="space-y-1 text-xs">
      {themePairs(theme, scheme).map(({ label, color, ground, ratio, wanted }) => (
        <li key={label} className="flex items-center gap-2">
          <span
            aria-hidden
            className="grid h-5 w-7 shrink-0 place-items-center rounded-sm border border-black/15 text-[11px] font-semibold"
            style={{ background: ground, color }}
          >
            Aa
          </span>
          <span className="grow">{label}</span>
          {ratio < wanted ? (
            <span className="flex items-center gap-1 text-amber">
              <TriangleAlert className="size-3.5" aria-hidden /> {ratio.toFixed(1)} to 1, wanted {wanted}
            </span>
          ) : (
            <span className="text-ink-soft">{ratio.toFixed(1)} to 1</span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** How numbers of each kind are written: what they are counted in, and how many of it are one. */
const UNITS = {
  px: { unit: "px", times: 1 },
  share: { unit: "%", times: 100 },
  thousandths: { unit: "‰", times: 1 },
} as const;

const WEIGHTS = ["400", "500", "600", "700", "800"].map((value) => ({ value, label: value }));
const HEADING_ROLES = [
  { value: "heading", label: "Headings" },
  { value: "text", label: "Words" },
  { value: "soft", label: "Soft words" },
  { value: "link", label: "Links" },
];
const TYPE = [
  ...WEB_FONTS.map(({ family, stack }) => ({ value: stack, label: family, aside: "ships along" })),
  ...FONTS.map(({ name, stack }) => ({ value: stack as string, label: name })),
];

/** What a theme can be set in: the brand's fonts first; a stack that is none of these stays in the list. */
function typeFor(stack: string, own: readonly BrandFont[] = []) {
  const all = [
    ...own.map(brandFont).map(({ family, stack: value }) => ({ value, label: family, aside: "the brand’s" })),
    ...TYPE,
  ];
  return all.some(({ value }) => value === stack)
    ? all
    : [{ value: stack, label: stack.split(",")[0] }, ...all];
}

/** One thing that is set of a theme. */
export function FieldOf({
  field: { path, label, name, kind, usual },
  theme,
  onChange,
}: {
  field: ThemeField;
  theme: Theme;
  onChange(theme: Theme): void;
}) {
  const fonts = useComposer((state) => state.facts.brand.fonts);
  const rests = typeof usual === "object" ? valueAt(theme, usual.as) : usual;
  const value = valueAt(theme, path) ?? rests;
  const set = (next: unknown) => onChange(withValueAt(theme, path, next === rests ? undefined : next));
  if (kind === "switch")
    return (
      <Switch checked={value === true} onChange={set}>
        {label}
      </Switch>
    );
  if (kind === "px" || kind === "share" || kind === "thousandths") {
    const { unit, times } = UNITS[kind];
    const { min, max } = themeBounds(path);
    return (
      <NumberLine
        label={label}
        unit={unit}
        min={Math.round(min * times)}
        max={Math.round(max * times)}
        value={Math.round((value as number) * times)}
        onChange={(next) => next !== undefined && set(next / times)}
      />
    );
  }
  const options =
    kind === "font"
      ? typeFor(value as string, fonts)
      : kind === "role"
        ? HEADING_ROLES
        : [...(usual ? [{ value: String(usual), label: "That of the words" }] : []), ...WEIGHTS];
  return (
    <Line label={label}>
      <Choose
        label={name}
        value={String(value)}
        options={options}
        onChange={(next) => set(kind === "weight" && next !== usual ? Number(next) : next)}
      />
    </Line>
  );
}
