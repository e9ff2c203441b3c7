import { ToggleGroup } from "radix-ui";
import type { Align, Valign } from "~/core/email";
import { Line } from "../../ui/form";
import { useSides } from "./sides";

const ROWS: readonly Valign[] = ["top", "middle", "bottom"];
const WORDS = {
  top: "Top",
  middle: "Middle",
  bottom: "Bottom",
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
  const sides = useSides();
  return (
    <Line label="Stand at">
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
          sides.map(({ value: column, label }) => (
            <ToggleGroup.Item
              key={`${row} ${column}`}
              value={`${row} ${column}`}
              aria-label={`${WORDS[row]} ${label.toLowerCase()}`}
              title={`${WORDS[row]} ${label.toLowerCase()}`}
              className="grid h-6 place-items-center rounded-[4px] hover:bg-black/5 data-[state=on]:bg-mulberry-wash"
            >
              <span className="size-1.5 rounded-full bg-[#b9b4c2] [[data-state=on]>&]:size-2.5 [[data-state=on]>&]:bg-mulberry" />
            </ToggleGroup.Item>
          )),
        )}
      </ToggleGroup.Root>
    </Line>
  );
}
