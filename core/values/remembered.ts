/**
 * What is made of a part of a document, made once: parts are values, a changed one is another. What was made goes with
 * the part it was made of.
 */
export function remembered<P extends object, M>(make: (part: P) => M): (part: P) => M {
  const known = new WeakMap<P, { made: M }>();
  return (part) => {
    let entry = known.get(part);
    if (!entry) {
      entry = { made: make(part) };
      known.set(part, entry);
    }
    return entry.made;
  };
}
