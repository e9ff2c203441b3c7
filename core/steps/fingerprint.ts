import { canonical, type Email } from "../email";

/** A short text that is equal for equal documents, to find out whether two sides have the same (FNV-1a, twice 32 bits). */
export function fingerprint(email: Email): string {
  const text = canonical(email);
  let [a, b] = [0x811c9dc5, 0x01000193];
  for (let index = 0; index < text.length; index++) {
    const unit = text.charCodeAt(index);
    a = Math.imul(a ^ unit, 0x01000193);
    b = Math.imul(b ^ (unit + index), 0x85ebca6b);
  }
  return [a, b].map((half) => (half >>> 0).toString(16).padStart(8, "0")).join("");
}
