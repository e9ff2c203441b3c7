import type { FieldDef } from "~/core/audience";
import { Choose } from "../ui/choose";
import { type Editing, Input } from "../ui/form";
import { DayField } from "../ui/when-field";

/** What a field holds, in the way of its kind; null is nothing. */
export function ValueInput({
  field: { label, kind, options = [], currency },
  value,
  onChange,
}: Editing<unknown> & { field: FieldDef }) {
  const words =
    typeof value === "string" ? value : value === undefined || value === null ? "" : String(value);
  switch (kind) {
    case "date":
      return <DayField label={label} value={words} onChange={(day) => onChange(day || null)} />;
    case "number":
    case "money":
      return (
        <Input
          type="number"
          step="any"
          aria-label={currency ? `${label} in ${currency}` : label}
          value={words}
          onChange={({ target }) => onChange(target.value === "" ? null : Number(target.value))}
        />
      );
    case "boolean":
      return (
        <Choose
          label={label}
          value={value === true ? "yes" : value === false ? "no" : ""}
          options={[
            { value: "", label: "Not known" },
            { value: "yes", label: "Yes" },
            { value: "no", label: "No" },
          ]}
          onChange={(next) => onChange(next === "" ? null : next === "yes")}
        />
      );
    case "choice":
    case "record":
      return (
        <Choose
          label={label}
          value={words}
          options={[
            { value: "", label: "Not known" },
            ...(words !== "" && !options.some((option) => option.value === words)
              ? [{ value: words, label: words }]
              : []),
            ...options,
          ]}
          onChange={(next) => onChange(next === "" ? null : next)}
        />
      );
    case "set": {
      const chosen = Array.isArray(value) ? (value as string[]) : [];
      return (
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {options.map((option) => (
            <label key={option.value} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={chosen.includes(option.value)}
                onChange={() =>
                  onChange(
                    chosen.includes(option.value)
                      ? chosen.filter((one) => one !== option.value)
                      : [...chosen, option.value],
                  )
                }
              />{" "}
              {option.label}
            </label>
          ))}
        </div>
      );
    }
    default:
      return <Input aria-label={label} value={words} onChange={(event) => onChange(event.target.value)} />;
  }
}
