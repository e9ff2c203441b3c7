import { useState } from "react";
import { type Editing, Line, Unlabelled } from "../../ui/form";
import { DayField, TimeField } from "../../ui/when-field";
import { ZoneChoice } from "../../ui/zone-choice";

/** A day and a time on the clock of a zone; `value` is `YYYY-MM-DDTHH:MM`, empty until both are there. */
export function TimeLine({ label, value, onChange }: Editing<string> & { label: string }) {
  const [day, time] = value.split("T");
  // A time that is chosen first waits for its day.
  const [waiting, setWaiting] = useState("");
  return (
    <Line label={label}>
      <div className="grid grid-cols-[1fr_58px] gap-1.5">
        <DayField
          label={label}
          value={day}
          onChange={(next) => onChange(next === "" ? "" : `${next}T${time ?? (waiting || "10:00")}`)}
        />
        <Unlabelled>
          <TimeField
            label={`${label}, time`}
            value={time ?? waiting}
            onChange={(next) => (day ? onChange(`${day}T${next}`) : setWaiting(next))}
          />
        </Unlabelled>
      </div>
    </Line>
  );
}

export function ZoneLine({ value, onChange }: { value: string; onChange(value: string): void }) {
  return (
    <Line label="Clock of">
      <ZoneChoice label="Clock of" value={value} onChange={onChange} />
    </Line>
  );
}
