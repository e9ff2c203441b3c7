/**
 * Letter case is folded for ASCII and Latin-1 only, with the same table in JavaScript and in SQL, so that a
 * predicate and its SQL condition agree on every string whatever the locale of the database.
 */
const UPPER = "ABCDEFGHIJKLMNOPQRSTUVWXYZÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞ";
const LOWER = "abcdefghijklmnopqrstuvwxyzàáâãäåæçèéêëìíîïðñòóôõöøùúûüýþ";

const CAPITAL = /[A-ZÀ-ÖØ-Þ]/;
const CAPITALS = /[A-ZÀ-ÖØ-Þ]/g;

/** The string with capital letters of ASCII and Latin-1 made small. */
export function fold(text: string): string {
  return CAPITAL.test(text) ? text.replace(CAPITALS, (letter) => LOWER[UPPER.indexOf(letter)]) : text;
}

/**
 * The SQL expression that folds a text expression well enough to be compared with `needles`, which are folded. Where
 * they are all ASCII, Latin-1 letters cannot matter, and the much faster folding of ASCII alone gives the same answer.
 */
export function foldSql(expression: string, needles: readonly string[]): string {
  const ascii = needles.every((needle) => /^[\x00-\x7f]*$/.test(needle));
  return ascii ? `lower((${expression}) collate "C")` : `translate(${expression}, '${UPPER}', '${LOWER}')`;
}
