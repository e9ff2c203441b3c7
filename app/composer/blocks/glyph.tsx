import { Popover } from "radix-ui";
import { useState } from "react";
import { GLYPH_NAMES, type GlyphName } from "~/core/markup";

const picture = (name: GlyphName) => `/glyphs/${name}-1E1B24.png`;

/** Chooses one of the line drawings. */
export function GlyphChoice({
  value,
  label,
  onChange,
}: {
  value: GlyphName;
  label: string;
  onChange(value: GlyphName): void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-glyph
        aria-label={`${label}: ${value}. Choose another`}
        className="grid size-8 shrink-0 place-items-center rounded-md border bg-paper hover:bg-black/4"
      >
        <img src={picture(value)} alt="" className="size-5" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          aria-label="Drawings"
          className="z-40 grid grid-cols-6 gap-1 rounded-lg border bg-paper p-2 shadow-xl"
        >
          {GLYPH_NAMES.map((name) => (
            <button
              key={name}
              type="button"
              aria-label={name}
              aria-pressed={name === value}
              title={name}
              className="grid size-8 place-items-center rounded-md hover:bg-black/5 aria-pressed:bg-mulberry-wash"
              onClick={() => {
                onChange(name);
                setOpen(false);
              }}
            >
              <img src={picture(name)} alt="" className="size-5" />
            </button>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
