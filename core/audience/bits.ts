/**
 * A set of readers as one bit for each, by the number of the contact: what an audience of a million answers to one test
 * takes 125 KB, and all, any and none of several tests are a pass over words of 32 bits.
 */
export class Bits {
  private constructor(
    /** One more than the greatest number there can be. */
    readonly size: number,
    private readonly words: Uint32Array,
  ) {}

  static none(size: number): Bits {
    return new Bits(size, new Uint32Array(Math.ceil(size / 32)));
  }

  has(at: number): boolean {
    return at < this.size && (this.words[at >>> 5] & (1 << (at & 31))) !== 0;
  }

  /** Only while it is being filled: a set that was given out does not change. */
  add(at: number): void {
    this.words[at >>> 5] |= 1 << (at & 31);
  }

  and(other: Bits): Bits {
    return this.with(other, (one, two) => one & two);
  }

  or(other: Bits): Bits {
    return this.with(other, (one, two) => one | two);
  }

  without(other: Bits): Bits {
    return this.with(other, (one, two) => one & ~two);
  }

  private with(other: Bits, join: (one: number, two: number) => number): Bits {
    if (other.size !== this.size) throw new Error(`sets of ${this.size} and ${other.size}`);
    const words = new Uint32Array(this.words.length);
    for (let at = 0; at < words.length; at++) words[at] = join(this.words[at], other.words[at]);
    return new Bits(this.size, words);
  }

  /** How many there are. */
  count(): number {
    let sum = 0;
    for (let word of this.words) {
      // The bits of a word added up in pairs, fours and eights.
      word -= (word >>> 1) & 0x55555555;
      word = (word & 0x33333333) + ((word >>> 2) & 0x33333333);
      sum += (((word + (word >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
    }
    return sum;
  }

  /** The lowest number there is; -1 when there is none. */
  first(): number {
    const at = this.words.findIndex((word) => word !== 0);
    return at < 0 ? -1 : at * 32 + 31 - Math.clz32(this.words[at] & -this.words[at]);
  }

  /** All numbers, in order. */
  *[Symbol.iterator](): Generator<number> {
    for (let at = 0; at < this.words.length; at++) {
      for (let word = this.words[at]; word !== 0; word &= word - 1)
        yield at * 32 + 31 - Math.clz32(word & -word);
    }
  }
}
