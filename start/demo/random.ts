/** A small seeded generator (mulberry32): the same demo every time. */
export interface Random {
  /** From 0 up to, not including, 1. */
  next(): number;
  pick<T>(from: readonly T[]): T;
  chance(probability: number): boolean;
  whole(from: number, to: number): number;
}

export function seeded(seed: number): Random {
  let state = seed;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    pick: (from) => from[Math.floor(next() * from.length)],
    chance: (probability) => next() < probability,
    whole: (from, to) => from + Math.floor(next() * (to - from + 1)),
  };
}
