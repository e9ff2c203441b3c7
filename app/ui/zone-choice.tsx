import { Choose } from "./choose";

const ZONES = Intl.supportedValuesOf("timeZone");

/** One of the time zones. */
export function ZoneChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  const zones = [...new Set([value, "UTC", ...ZONES])];
  return (
    <Choose
      label={label}
      value={value}
      onChange={onChange}
      options={zones.map((zone) => ({ value: zone, label: zone.replaceAll("_", " "), words: zone }))}
    />
  );
}
