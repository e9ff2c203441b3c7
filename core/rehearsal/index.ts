/**
 * Messages as they are finished: what only each of them shows, and the odd ones among many.
 *
 * `oddOf` looks one over, `Tally` keeps the count of many and the furthest from the usual; tallies of stretches made side
 * by side are joined.
 */
export { type Finished, ODDITIES, type Odd, type Oddity, oddOf } from "./odd";
export {
  EXTREMES,
  type Extreme,
  joined,
  type Measures,
  NOTHING,
  noted,
  type Sample,
  sharedCodes,
  type Tally,
} from "./tally";
