/**
 * Letter case is folded for ASCII and Latin-1 only, with the same table in JavaScript and in SQL, so that a
 * predicate and its SQL condition agree on every string whatever the locale of the database.
 */
const UPPER = "ABCDEFGHIJKLMNOPQRSTUVWXYZÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞ";
const LOWER = "abcdefghijklmnopqrstuvwxyzàáâãäåæçèéêëìíîïðñòóôõöøùúûüýþ";

/** The string with capital letters of ASCII and Latin-1 made small. */
export function fold(text: string): string {
  return text.replace(/[A-ZÀ-ÖØ-Þ]/g, (letter) => LOWER[UPPER.indexOf(letter)]);
}

/** The SQL expression that does the same to a text expression. */
export function foldSql(expression: string): string {
  return `translate(${expression}, '${UPPER}', '${LOWER}')`;
}
