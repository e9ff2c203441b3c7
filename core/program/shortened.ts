/**
 * Shortens words to whole ones within so many characters, with an ellipsis. What was sent is shown again by the same words:
 * how it shortens stays.
 */
export function shortened(text: string, length: number): string {
  if (text.length <= length) return text;
  const cut = text.slice(0, length);
  const space = cut.lastIndexOf(" ");
  return `${(space > length * 0.6 ? cut.slice(0, space) : cut).replace(/[\s,;:.–-]+$/, "")}…`;
}
