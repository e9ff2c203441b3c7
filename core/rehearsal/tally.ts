/** What many finished messages come to: how many are odd in which way, and those furthest from the usual. */
import type { Odd, Oddity } from "./odd";

/** What is measured of a message. */
export interface Measures {
  /** All its octets. */
  octets: number;
  /** The words of its text part. */
  words: number;
  /** The signs of its subject. */
  subject: number;
  /** The signs of what the reader is called. */
  name: number;
}

/** By what messages are furthest from the usual: which measure, and whether much or little of it is odd. */
export const EXTREMES = {
  heaviest: { of: "octets", most: true },
  longest: { of: "words", most: true },
  emptiest: { of: "words", most: false },
  subject: { of: "subject", most: true },
  name: { of: "name", most: true },
} as const satisfies Record<string, { of: keyof Measures; most: boolean }>;
export type Extreme = keyof typeof EXTREMES;

/** One message among many: whose it is, with what was measured. */
export interface Sample {
  reader: number;
  measures: Measures;
}

export interface Tally {
  made: number;
  /** The octets of all of them. */
  octets: number;
  /** Of each oddity how many messages have it, and some of them. */
  odd: Partial<Record<Oddity, { count: number; some: { reader: number; said: string }[] }>>;
  /** Some at each end, furthest first. */
  extremes: Record<Extreme, Sample[]>;
}

/** So many messages are kept of each oddity, and at each end. */
const SOME = 20;
const ENDS = 3;

const names = Object.keys(EXTREMES) as Extreme[];
const each = (make: (name: Extreme) => Sample[]) =>
  Object.fromEntries(names.map((name) => [name, make(name)])) as Tally["extremes"];

/** Of no message. */
export const NOTHING: Tally = { made: 0, octets: 0, odd: {}, extremes: each(() => []) };

/** A tally of one message. */
export function noted(sample: Sample, odd: readonly Odd[]): Tally {
  return {
    made: 1,
    octets: sample.measures.octets,
    odd: Object.fromEntries(
      odd.map(({ kind, said }) => [kind, { count: 1, some: [{ reader: sample.reader, said }] }]),
    ),
    extremes: each(() => [sample]),
  };
}

/** Two tallies as one; in whatever order stretches come, the same comes of it. */
export function joined(one: Tally, other: Tally): Tally {
  const odd: Tally["odd"] = { ...one.odd };
  for (const [kind, { count, some }] of Object.entries(other.odd) as [
    Oddity,
    NonNullable<Tally["odd"][Oddity]>,
  ][]) {
    const mine = odd[kind];
    odd[kind] = {
      count: count + (mine?.count ?? 0),
      some: [...(mine?.some ?? []), ...some].sort((a, b) => a.reader - b.reader).slice(0, SOME),
    };
  }
  return {
    made: one.made + other.made,
    octets: one.octets + other.octets,
    odd,
    extremes: each((name) => furthest(name, [...one.extremes[name], ...other.extremes[name]])),
  };
}

function furthest(name: Extreme, samples: Sample[]): Sample[] {
  const { of, most } = EXTREMES[name];
  const by = ({ measures }: Sample) => (most ? -measures[of] : measures[of]);
  return samples.sort((a, b) => by(a) - by(b) || a.reader - b.reader).slice(0, ENDS);
}

/** What is odd between messages: a code of a batch that two readers are given, told of the later one. @param readers with their codes by batch */
export function sharedCodes(
  readers: readonly { reader: number; codes: Readonly<Record<string, string>> }[],
): Tally {
  const given = new Set<string>();
  const some: { reader: number; said: string }[] = [];
  for (const { reader, codes } of readers)
    for (const entry of Object.entries(codes)) {
      const key = JSON.stringify(entry);
      if (given.has(key)) some.push({ reader, said: `The code ${entry[1]} is somebody else’s, too` });
      given.add(key);
    }
  return some.length === 0 ? NOTHING : { ...NOTHING, odd: { code: { count: some.length, some } } };
}
