/** Makes ids that are new to the document. Passed in, so that core/ needs no randomness. */
export type IdMaker = () => string;

/** A deep copy with new ids throughout. */
export function freshCopy<T>(node: T, newId: IdMaker): T {
  return JSON.parse(JSON.stringify(node), (key, value) =>
    key === "id" && typeof value === "string" ? newId() : value,
  );
}
