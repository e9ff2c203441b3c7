import { Choose } from "./choose";

export interface CellReading {
  /** What parts whole numbers from what is after them. */
  decimal: "." | ",";
  /** How days are written that do not begin with the year. */
  dates: "dmy" | "mdy";
}

/** How the numbers or the days in a column of a file are written, where that matters. */
export function CellReadingChoice({
  column,
  days,
  numbers,
  value: { dates, decimal },
  onChange,
}: {
  column: string;
  days: boolean;
  numbers: boolean;
  value: CellReading;
  onChange(part: Partial<CellReading>): void;
}) {
  return (
    <>
      {days && (
        <Choose
          label={`How days in ${column} are written`}
          className="w-32!"
          value={dates}
          options={[
            { value: "dmy", label: "day first" },
            { value: "mdy", label: "month first" },
          ]}
          onChange={(value) => onChange({ dates: value })}
        />
      )}
      {numbers && (
        <Choose
          label={`How numbers in ${column} are written`}
          className="w-32!"
          value={decimal}
          options={[
            { value: ".", label: "1,234.50" },
            { value: ",", label: "1.234,50" },
          ]}
          onChange={(value) => onChange({ decimal: value })}
        />
      )}
    </>
  );
}
