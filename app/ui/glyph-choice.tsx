import { GLYPH_NAMES, type GlyphName } from "~/core/markup";
import { Popover } from "./floating";
import type { Editing } from "./form";

const picture = (name: GlyphName) => `/glyphs/${name}-1E1B24.png`;

/** Chooses one of the line drawings, or a picture of one's own where there may be one. */
export function GlyphChoice({
  value,
  label,
  onChange,
  own,
}: Editing<GlyphName> & {
  label: string;
  own?: {
    value: string | undefined;
    pictures: readonly { path: string; name: string }[];
    onChange(path: string): void;
  };
}) {
  const one = (name: string, src: string, chosen: boolean, choose: () => void) => (
    <button
      key={src}
      type="button"
      aria-label={name}
      aria-pressed={chosen}
      title={name}
      className="grid size-8 place-items-center rounded-md hover:bg-black/5 aria-pressed:bg-mulberry-wash"
      onClick={choose}
    >
      <img src={src} alt="" loading="lazy" className="size-5 object-contain" />
    </button>
  );
  return (
    <Popover
      label="Drawings"
      className="p-2!"
      button={
        <button
          type="button"
          data-glyph
          aria-label={`${label}: ${own?.value ? "a picture of your own" : value}. Choose another`}
          className="grid size-8 shrink-0 place-items-center rounded-md border bg-paper hover:bg-black/4"
        >
          <img src={own?.value ?? picture(value)} alt="" className="size-5 object-contain" />
        </button>
      }
    >
      {(close) => (
        <>
          <div className="grid grid-cols-6 gap-1">
            {GLYPH_NAMES.map((name) =>
              one(name, picture(name), !own?.value && name === value, () => {
                onChange(name);
                close();
              }),
            )}
          </div>
          {own && own.pictures.length > 0 && (
            <>
              <p className="mt-2 mb-1 text-xs text-ink-soft">Pictures of your own</p>
              <div className="grid max-h-32 grid-cols-6 gap-1 overflow-y-auto">
                {own.pictures.map(({ path, name }) =>
                  one(name, path, path === own.value, () => {
                    own.onChange(path);
                    close();
                  }),
                )}
              </div>
            </>
          )}
        </>
      )}
    </Popover>
  );
}
