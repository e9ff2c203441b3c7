import { Choose } from "./choose";

const ZONES = Intl.supportedValuesOf("timeZone");

/** One of the time zones. */
export function ZoneChoice({
  id,
  label,
  value,
  onChange,
}: {
  id?: string;
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  const zones = [...new Set([value, "UTC", ...ZONES])];
  return (
    <Choose
      id={id}
      label={label}
      value={value}
      onChange={onChange}
      options={zones.map((zone) => ({ value: zone, label: zone.replaceAll("_", " "), words: zone }))}
    />
  );
}
