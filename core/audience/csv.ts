/**
 * What a spreadsheet would take for a formula begins with one of these; an apostrophe before it makes it words
 * (OWASP, "CSV Injection").
 */
const FORMULA = /^[=+\-@\t\r]/;

/** A value as a cell: nothing for nothing, sets parted by commas, and no formula. */
function cell(value: unknown): string {
  if (value === null || value === undefined) return "";
  const words = Array.isArray(value)
    ? value.filter((one) => typeof one === "string").join(", ")
    : typeof value === "object"
      ? JSON.stringify(value)
      : value === true
        ? "yes"
        : value === false
          ? "no"
          : String(value);
  const harmless = typeof value === "string" || Array.isArray(value) ? words.replace(FORMULA, "'$&") : words;
  return /[",\r\n]|^\s|\s$/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}

/** One record of a CSV file, with its line end (RFC 4180). */
export function csvRecord(values: readonly unknown[]): string {
  return `${values.map(cell).join(",")}\r\n`;
}
