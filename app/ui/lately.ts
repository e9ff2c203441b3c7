/** The words that were taken last in this browser, the last one first: `key` says of what, and `most` how many. */
export function lately(key: string, most: number) {
  const all = () => (localStorage.getItem(key) ?? "").split(" ").filter(Boolean);
  return {
    all,
    note: (word: string) =>
      localStorage.setItem(key, [word, ...all().filter((one) => one !== word)].slice(0, most).join(" ")),
  };
}
