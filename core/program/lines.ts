/** How wide letters are, as shares of their size: about so in the fonts that mail programs have. */
const WIDTHS: readonly (readonly [letters: RegExp, width: number])[] = [
  [
    /[\u1100-\u11ff\u2e80-\ua4cf\uac00-\ud7ff\uf900-\ufaff\ufe30-\ufe4f\uff00-\uff60]|\p{Extended_Pictographic}/u,
    1,
  ],
  [/\p{M}/u, 0],
  [/[iljtfI.,:;'’!|()[\]]|\s/u, 0.3],
  [/[mwMW@%]/u, 0.86],
  [/\p{Lu}/u, 0.66],
];
const OTHERS = 0.52;

const widthOf = (words: string): number => {
  let width = 0;
  for (const letter of words) width += WIDTHS.find(([letters]) => letters.test(letter))?.[1] ?? OTHERS;
  return width;
};

/**
 * Shortens words to whole ones that take about so many lines, with an ellipsis. How wide they come out differs from
 * program to program; they are taken to be of a common width.
 * @param width of a line, in px
 * @param size of the letters, in px
 */
export function shortenedToLines(text: string, lines: number, width: number, size: number): string {
  const room = width / size;
  const space = widthOf(" ");
  let [line, used, end] = [1, 0, 0];
  for (const { 0: word, index } of text.matchAll(/\S+/gu)) {
    const wide = widthOf(word);
    const beside = used === 0 ? wide : used + space + wide;
    if (beside > room && used > 0) {
      line++;
      used = 0;
    }
    // A word wider than a line is broken where it ends.
    const broken = Math.max(0, Math.ceil(wide / room) - 1);
    line += broken;
    used = beside > room ? wide - broken * room : beside;
    const more = /\S/u.test(text.slice(index + word.length));
    if (line > lines || (line === lines && more && used + widthOf("…") > room)) break;
    end = index + word.length;
  }
  if (!/\S/u.test(text.slice(end))) return text;
  // A first word that is too long alone is better than none.
  const kept =
    end === 0
      ? [...text].slice(0, Math.max(1, Math.floor((room * lines) / OTHERS))).join("")
      : text.slice(0, end);
  return `${kept.replace(/[\s,;:.–-]+$/u, "")}…`;
}
