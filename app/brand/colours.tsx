import { Palette, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { HexColorPicker } from "react-colorful";
import { contrast, READABLE } from "~/core/color";
import { type Brand, DEFAULT_THEME, proposedTheme, type Theme } from "~/core/email";
import { ask, tell } from "../requests";
import { Button, IconButton } from "../ui/button";
import { Popover } from "../ui/floating";
import { Input, Problem } from "../ui/form";
import { HexInput } from "../ui/hex-input";
import { useNotify } from "../ui/notices";
import { Specimen } from "./specimen";

type Colour = NonNullable<Brand["colours"]>[number];

/** The brand's colours, how they can be read on each other, and a theme that begins with them. */
export function Colours({ brand, onChange }: { brand: Brand; onChange(part: Partial<Brand>): void }) {
  const colours = brand.colours ?? [];
  const notify = useNotify();
  const [problem, setProblem] = useState<string | null>(null);
  const set = (next: Colour[]) => onChange({ colours: next });
  const change = (index: number, part: Partial<Colour>) =>
    set(colours.map((one, at) => (at === index ? { ...one, ...part } : one)));
  const propose = async () => {
    setProblem(null);
    const picture = brand.logo?.src.split("/").at(-1) ?? "";
    const { result: found } = await ask("/library/:picture/colours", { at: { picture } });
    if (!found) setProblem("The logo cannot be read. Choose it anew, or give the colours by hand.");
    else if (found.length === 0) setProblem("Nothing of the logo can be seen, so it has no colours.");
    else
      set(found.map(({ color }, index) => ({ name: index === 0 ? "Main" : `Colour ${index + 1}`, color })));
  };
  const theme =
    colours.length > 0
      ? proposedTheme(
          colours.map(({ color }) => color),
          DEFAULT_THEME,
        )
      : null;
  const makeTheme = async (made: Theme) => {
    setProblem(null);
    const answer = await tell("/themes", {
      intent: "save",
      theme: { ...made, name: brand.name },
      of: null,
    });
    if (answer.problem !== null) setProblem(answer.problem);
    else {
      onChange({ theme: answer.result.theme.id });
      notify({
        text: `The theme “${answer.result.theme.name}” is there. New emails begin with it once you save.`,
      });
    }
  };
  return (
    <section className="card space-y-3 p-5" aria-label="Colours">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="grow text-[15px] font-semibold">Colours</h2>
        {brand.logo?.src.startsWith("/pictures/") && (
          <Button onClick={() => void propose()}>
            <Palette className="size-4" aria-hidden /> Take them from the logo
          </Button>
        )}
      </div>
      <p className="text-ink-soft">They stand first wherever a colour is chosen.</p>
      {problem && <Problem>{problem}</Problem>}
      {colours.map(({ name, color }, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: colours are told apart by their place alone
        <div key={index} className="flex items-center gap-2 max-sm:flex-wrap">
          <Swatch
            label={`Choose colour ${index + 1}`}
            color={color}
            onChange={(next) => change(index, { color: next })}
          />
          <Input
            className="max-sm:w-32! max-sm:grow"
            aria-label={`Name of colour ${index + 1}`}
            value={name}
            onChange={(event) => change(index, { name: event.target.value })}
          />
          <div className="w-28 shrink-0">
            <HexInput
              label={`Colour ${index + 1}, six digits`}
              value={color}
              onChange={(next) => change(index, { color: next })}
            />
          </div>
          <span className="w-32 shrink-0 text-xs text-ink-soft max-sm:grow">{onWhite(color)}</span>
          <IconButton
            icon={Trash2}
            label={`Take out colour ${index + 1}`}
            onClick={() => set(colours.filter((_, at) => at !== index))}
          />
        </div>
      ))}
      <Button onClick={() => set([...colours, { name: "", color: "#2F5D8A" }])}>
        <Plus className="size-4" aria-hidden /> Add a colour
      </Button>
      {theme && (
        <div className="space-y-2 border-t pt-3">
          <h3 className="font-semibold">A theme that begins with them</h3>
          <div className="grid grid-cols-2 gap-3">
            <Specimen theme={theme} scheme="light" />
            <Specimen theme={theme} scheme="dark" />
          </div>
          <Button onClick={() => void makeTheme(theme)}>Keep it as a theme</Button>
        </div>
      )}
    </section>
  );
}

/** Where a colour can be read. */
function onWhite(color: string): string {
  const [white, black] = [contrast(color, "#FFFFFF"), contrast(color, "#1E1B24")];
  return white >= READABLE
    ? `${white.toFixed(1)} to 1 on white`
    : black >= READABLE
      ? `${black.toFixed(1)} to 1 on black`
      : "for grounds only";
}

function Swatch({ label, color, onChange }: { label: string; color: string; onChange(color: string): void }) {
  return (
    <Popover
      label={label}
      button={
        <button type="button" aria-label={label} className="size-8 shrink-0 rounded-md border p-0.5">
          <span className="block size-full rounded-sm border border-black/10" style={{ background: color }} />
        </button>
      }
    >
      <HexColorPicker color={color.toLowerCase()} onChange={(next) => onChange(next.toUpperCase())} />
    </Popover>
  );
}
