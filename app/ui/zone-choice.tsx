import { Choose } from "./choose";
import type { Editing } from "./form";

const ZONES = Intl.supportedValuesOf("timeZone");

/** One of the time zones. */
export function ZoneChoice({ label, value, onChange }: Editing<string> & { label: string }) {
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
