import { Input } from "./form";

/** Six digits of a colour, taken over when they are whole. */
export function HexInput({
  label,
  value,
  onChange,
}: {
  label?: string;
  value: string | undefined;
  onChange(value: string): void;
}) {
  const shown = (value ?? "").toUpperCase();
  return (
    <Input
      aria-label={label}
      data-hex
      key={shown}
      defaultValue={shown}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      onBlur={(event) => {
        const text = event.target.value.trim().replace(/^#?/, "#").toUpperCase();
        if (/^#[0-9A-F]{6}$/.test(text)) {
          if (text !== shown) onChange(text);
        } else event.target.value = shown;
      }}
    />
  );
}
