import { ToggleGroup } from "radix-ui";
import type { Align, Valign } from "~/core/email";
import { Line } from "../../ui/form";

const ROWS: readonly Valign[] = ["top", "middle", "bottom"];
const COLUMNS: readonly Align[] = ["left", "center", "right"];
const WORDS = {
  top: "Top",
  middle: "Middle",
  bottom: "Bottom",
  left: "left",
  center: "centre",
  right: "right",
};

/** One of nine places on a picture. */
export function PlaceGrid({
  at,
  valign,
  onChange,
}: {
  at: Align;
  valign: Valign;
  onChange(place: { at: Align; valign: Valign }): void;
}) {
  return (
    <Line label="Stand at">
      {() => (
        <ToggleGroup.Root
          type="single"
          aria-label="Where the words stand"
          value={`${valign} ${at}`}
          onValueChange={(next) => {
            const [row, column] = next.split(" ") as [Valign, Align];
            if (next !== "") onChange({ at: column, valign: row });
          }}
          className="grid w-24 grid-cols-3 gap-0.5 rounded-md border p-0.5"
        >
          {ROWS.flatMap((row) =>
            COLUMNS.map((column) => (
              <ToggleGroup.Item
                key={`${row} ${column}`}
                value={`${row} ${column}`}
                aria-label={`${WORDS[row]} ${WORDS[column]}`}
                title={`${WORDS[row]} ${WORDS[column]}`}
                className="grid h-6 place-items-center rounded-[4px] hover:bg-black/5 data-[state=on]:bg-mulberry-wash"
              >
                <span className="size-1.5 rounded-full bg-[#b9b4c2] [[data-state=on]>&]:size-2.5 [[data-state=on]>&]:bg-mulberry" />
              </ToggleGroup.Item>
            )),
          )}
        </ToggleGroup.Root>
      )}
    </Line>
  );
}
