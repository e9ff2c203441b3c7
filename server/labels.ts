/** Labels as they are written in a field, parted by commas. */
export function labelsIn(text: string): string[] {
  return [
    ...new Set(
      text
        .split(",")
        .map((label) => label.trim().slice(0, 40))
        .filter(Boolean),
    ),
  ].slice(0, 20);
}
