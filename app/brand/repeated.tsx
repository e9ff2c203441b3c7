import { Plus, Trash2 } from "lucide-react";
import type { GlyphName } from "~/core/markup";
import { Button, IconButton } from "../ui/button";
import { Input } from "../ui/form";
import { GlyphChoice } from "../ui/glyph-choice";

interface Column<Row> {
  key: keyof Row & string;
  label: string;
  placeholder: string;
  /** What is wrong with it; null when nothing is. */
  check?(text: string): string | null;
}

/** Rows of words, each with a few fields; any number of them. */
export function Repeated<Row extends { [key: string]: string | undefined }>({
  title,
  about,
  add,
  rows,
  fresh,
  columns,
  glyphs,
  onChange,
}: {
  title: string;
  about: string;
  add: string;
  rows: readonly Row[];
  fresh: Row;
  columns: readonly Column<Row>[];
  /** Where each row has a drawing, under `glyph`: the pictures that may stand in its place, under `picture`. */
  glyphs?: readonly { path: string; name: string }[];
  onChange(rows: Row[]): void;
}) {
  const change = (index: number, part: Record<string, string | undefined>) =>
    onChange(rows.map((row, at) => (at === index ? ({ ...row, ...part } as Row) : row)));
  return (
    <section className="card space-y-3 p-5" aria-label={title}>
      <h2 className="text-[15px] font-semibold">{title}</h2>
      <p className="text-ink-soft">{about}</p>
      {rows.map((row, index) => {
        const wrong = columns.flatMap(({ key, check }) => check?.(row[key] ?? "") ?? []);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
          <div key={index}>
            <div className="flex items-center gap-2">
              {glyphs && (
                <GlyphChoice
                  label={`Drawing ${index + 1}`}
                  value={(row.glyph ?? "globe") as GlyphName}
                  onChange={(glyph) => change(index, { glyph, picture: undefined })}
                  own={{
                    value: row.picture,
                    pictures: glyphs,
                    onChange: (picture) => change(index, { picture }),
                  }}
                />
              )}
              {columns.map(({ key, label, placeholder }) => (
                <Input
                  key={key}
                  aria-label={`${label} ${index + 1}`}
                  placeholder={placeholder}
                  value={row[key] ?? ""}
                  onChange={(event) =>
                    change(index, { [key]: event.target.value || (key in fresh ? "" : undefined) })
                  }
                />
              ))}
              <IconButton
                icon={Trash2}
                label={`Take out ${title.toLowerCase()} ${index + 1}`}
                onClick={() => onChange(rows.filter((_, at) => at !== index))}
              />
            </div>
            {wrong.length > 0 && (
              <p role="status" className="mt-1 text-xs text-amber">
                {wrong[0]}
              </p>
            )}
          </div>
        );
      })}
      <Button onClick={() => onChange([...rows, fresh])}>
        <Plus className="size-4" aria-hidden /> {add}
      </Button>
    </section>
  );
}
