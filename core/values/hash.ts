/** A 32-bit hash of a text (FNV-1a). */
export function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return mixed(hash);
}

/** Spreads the bits of a number over all of it (the finish of MurmurHash3); not negative. */
export function mixed(number: number): number {
  let hash = number;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}
