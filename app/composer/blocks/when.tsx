import { Input, Line, Select } from "../../ui/form";

const ZONES = Intl.supportedValuesOf("timeZone");

export function TimeLine({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  return (
    <Line label={label}>
      {(id) => (
        <Input
          id={id}
          type="datetime-local"
          className="px-1.5!"
          value={value}
          onChange={(event) => onChange(event.target.value.slice(0, 16))}
        />
      )}
    </Line>
  );
}

export function ZoneLine({ value, onChange }: { value: string; onChange(value: string): void }) {
  return (
    <Line label="Clock of">
      {(id) => (
        <Select id={id} value={value} onChange={(event) => onChange(event.target.value)}>
          {(ZONES.includes(value) ? ZONES : [value, ...ZONES]).map((zone) => (
            <option key={zone}>{zone}</option>
          ))}
        </Select>
      )}
    </Line>
  );
}
