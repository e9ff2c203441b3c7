export const DISPATCH_STATES = ["scheduled", "gathering", "sending", "paused", "sent", "cancelled"] as const;
export type DispatchState = (typeof DISPATCH_STATES)[number];

const MOVES: Record<DispatchState, readonly DispatchState[]> = {
  scheduled: ["gathering", "cancelled"],
  gathering: ["sending", "paused", "cancelled"],
  sending: ["paused", "sent", "cancelled"],
  paused: ["gathering", "sending", "cancelled"],
  sent: [],
  cancelled: [],
};

/** Whether a dispatch may go from one state to another. */
export function canMove(from: DispatchState, to: DispatchState): boolean {
  return MOVES[from].includes(to);
}
