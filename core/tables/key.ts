/** A key for a field of a name, that no other has. */
export function keyFor(label: string, taken: ReadonlySet<string>): string {
  const bare = label
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[^a-z]+|_+$/g, "")
    .slice(0, 50);
  const stem = bare === "" ? "field" : bare;
  let key = stem;
  for (let number = 2; taken.has(key); number++) key = `${stem}_${number}`;
  return key;
}
