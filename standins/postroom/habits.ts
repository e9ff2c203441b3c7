/**
 * What a reader does with a message, and when: by habits of their own, drawn from a seed and their address. The numbers are made
 * up so that every kind of reader is there; they say nothing about the world.
 */
import { createHash } from "node:crypto";
import type { DeedKind } from "~/core/sending";

/** Something a reader, or a program of theirs, will do: so many milliseconds of life after the message came. */
export interface Deed {
  kind: DeedKind;
  after: number;
  /** Which of what can be pressed, from 0 to 1. */
  which: number;
}

/** Numbers from 0 to 1 that follow from some words, one after the other. */
export function drawn(words: string): () => number {
  let octets = Buffer.alloc(0);
  let round = 0;
  return () => {
    if (octets.length < 4) octets = createHash("sha256").update(`${words} ${round++}`).digest();
    const number = octets.readUInt32BE(0) / 2 ** 32;
    octets = octets.subarray(4);
    return number;
  };
}

/** How a kind of reader is: how likely they open, press then, answer, leave and complain, and how soon they look, in hours. */
interface Habit {
  share: number;
  opens: number;
  presses: number;
  answers: number;
  leaves: number;
  complains: number;
  hours: number;
}

const HABITS: readonly Habit[] = [
  { share: 0.2, opens: 0.85, presses: 0.4, answers: 0.01, leaves: 0.001, complains: 0, hours: 1.5 },
  { share: 0.45, opens: 0.4, presses: 0.12, answers: 0.003, leaves: 0.004, complains: 0.0005, hours: 5 },
  { share: 0.34, opens: 0.06, presses: 0.05, answers: 0, leaves: 0.01, complains: 0.002, hours: 20 },
];
/** The rest have no mailbox any more. */
const GONE_AFTER = 30_000;

const MINUTE = 60_000;

/**
 * What comes of a message.
 * @param nth how many messages the reader had before since readers were let live
 */
export function deedsOf(seed: number, address: string, nth: number): Deed[] {
  const own = drawn(`habit ${seed} ${address.toLowerCase()}`);
  const kind = own();
  const scanned = own() < 0.15;
  const draw = drawn(`deed ${seed} ${address.toLowerCase()} ${nth}`);
  let share = 0;
  const habit = HABITS.find((one) => {
    share += one.share;
    return kind < share;
  });
  if (!habit) return [{ kind: "return", after: GONE_AFTER * draw(), which: 0 }];
  const deeds: Deed[] = [];
  const does = (kind: DeedKind, after: number) => deeds.push({ kind, after, which: draw() });
  // Where the mail system looks ahead, it does so at once.
  if (scanned) does("scan", 2000 * draw());
  // Waits are drawn so that most are short and some are long.
  const looks = -Math.log(1 - draw()) * habit.hours * 60 * MINUTE;
  if (draw() < habit.opens) {
    does("open", looks);
    if (draw() < habit.presses) does("press", looks + (0.2 + draw()) * MINUTE);
    if (draw() < habit.presses / 3) does("press", looks + (2 + draw()) * MINUTE);
    if (draw() < habit.answers) does("answer", looks + (5 + 20 * draw()) * MINUTE);
  }
  if (draw() < habit.leaves) does("leave", looks + 0.5 * MINUTE);
  else if (draw() < habit.complains) does("complain", looks + 0.5 * MINUTE);
  return deeds;
}
