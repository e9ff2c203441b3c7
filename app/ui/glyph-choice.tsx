import { Popover } from "radix-ui";
import { useState } from "react";
import { GLYPH_NAMES, type GlyphName } from "~/core/markup";

const picture = (name: GlyphName) => `/glyphs/${name}-1E1B24.png`;

/** Chooses one of the line drawings, or a picture of one's own where there may be one. */
export function GlyphChoice({
  value,
  label,
  onChange,
  own,
}: {
  value: GlyphName;
  label: string;
  onChange(value: GlyphName): void;
  own?: {
    value: string | undefined;
    pictures: readonly { path: string; name: string }[];
    onChange(path: string): void;
  };
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-glyph
        aria-label={`${label}: ${own?.value ? "a picture of your own" : value}. Choose another`}
        className="grid size-8 shrink-0 place-items-center rounded-md border bg-paper hover:bg-black/4"
      >
        <img src={own?.value ?? picture(value)} alt="" className="size-5 object-contain" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          aria-label="Drawings"
          className="z-40 rounded-lg border bg-paper p-2 shadow-xl"
        >
          <div className="grid grid-cols-6 gap-1">
            {GLYPH_NAMES.map((name) => (
              <button
                key={name}
                type="button"
                aria-label={name}
                aria-pressed={!own?.value && name === value}
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
          </div>
          {own && own.pictures.length > 0 && (
            <>
              <p className="mt-2 mb-1 text-xs text-ink-soft">Pictures of your own</p>
              <div className="grid max-h-32 grid-cols-6 gap-1 overflow-y-auto">
                {own.pictures.map(({ path, name }) => (
                  <button
                    key={path}
                    type="button"
                    aria-label={name}
                    aria-pressed={path === own.value}
                    title={name}
                    className="grid size-8 place-items-center rounded-md hover:bg-black/5 aria-pressed:bg-mulberry-wash"
                    onClick={() => {
                      own.onChange(path);
                      setOpen(false);
                    }}
                  >
                    <img src={path} alt="" loading="lazy" className="size-6 object-contain" />
                  </button>
                ))}
              </div>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
