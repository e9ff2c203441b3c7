/** What can happen between us and a contact, by the number it is stored under. */
export const EVENT_KINDS = { sent: 1, opened: 2, clicked: 3, answered: 4 } as const;
export type EventKind = keyof typeof EVENT_KINDS;

/** What a contact did, or was sent. */
export interface History {
  events: readonly { what: EventKind; at: number; campaign: string; address?: string }[];
  orders: readonly { at: number; lines: readonly { product: string; category: string }[] }[];
}
