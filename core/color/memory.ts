/**
 * Keeps what a function made of a text: the same few colours are asked for again with every block. So many are kept at
 * most, then it begins anew.
 */
export function remembering<T>(make: (text: string) => T, most = 5000): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    let value = known.get(text);
    if (value === undefined) {
      if (known.size >= most) known.clear();
      value = make(text);
      known.set(text, value);
    }
    return value;
  };
}
