/**
 * What the shop tells the program of a year: what its customers bought and looked at, in batches as any other system sends
 * them through the door. Worked out from the customers' numbers alone, so always the same.
 */
import { addDays } from "~/core/audience";
import { products } from "./products";

/** Somebody who buys. */
export interface Customer {
  /** Decides what they buy. */
  number: number;
  email: string;
  /** How many times they bought, and the day of the last time, `YYYY-MM-DD`. */
  orders: number;
  lastOrder: string;
}

/** Takes one batch, as the door does for a purpose. */
export type Door = (
  purpose: "orders" | "events",
  body: { batch: string; entries: object[] },
) => Promise<void>;

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
/** So many entries a batch has. */
const BATCH = 1000;
/** So many minutes after nine somebody buys, at most. */
const BUSY = 600;

/** What one customer buys at once. @param which tells their orders apart, from 0 */
function linesOf(number: number, which: number): object[] {
  const goods = products();
  return Array.from({ length: 1 + ((number + which) % 3) }, (_, at) => {
    const { sku, title, category, price } = goods[(number * 7 + which * 5 + (at + 1) * 11) % goods.length];
    return { item: sku, name: title, category: category[0], price, quantity: 1 + ((number + at + 1) % 2) };
  });
}

/** What one customer bought, the last order first. */
function ordersOf({ number, orders, lastOrder }: Customer): { at: string; lines: object[] }[] {
  return Array.from({ length: orders }, (_, k) => {
    const day = addDays(lastOrder, -k * (20 + ((number * 13 + k * 7) % 60)));
    const minute = 9 * 60 + (number % BUSY);
    return {
      at: new Date(Date.parse(`${day}T00:00:00Z`) + minute * MINUTE).toISOString(),
      lines: linesOf(number, k),
    };
  });
}

/** What one customer looked at of late, beside what they bought. */
function viewsOf({ number }: Customer, now: number): { at: string; item: string }[] {
  const goods = products();
  return [1, 2, 3, 4]
    .filter((look) => (number + look) % 3 > 0)
    .map((look) => ({
      at: new Date(
        now - ((number * 31 + look * 17) % 90) * 8 * HOUR - (number % BUSY) * MINUTE,
      ).toISOString(),
      item: goods[(number * 7 + look * 23) % goods.length].sku,
    }));
}

/** Tells of a year. @param now the moment it ends, in milliseconds since 1970 */
export async function tellOfAYear(customers: readonly Customer[], door: Door, now: number): Promise<void> {
  const orders = customers
    .flatMap((customer) => ordersOf(customer).map((order) => ({ email: customer.email, ...order })))
    .map((order, at) => ({ number: `T${100_001 + at}`, currency: "GBP", ...order }));
  const events = customers
    .flatMap((customer) => viewsOf(customer, now).map((view) => ({ email: customer.email, ...view })))
    .map((view) => ({ what: "viewed", ...view }));
  for (const [purpose, entries] of [
    ["orders", orders],
    ["events", events],
  ] as const)
    for (let from = 0; from < entries.length; from += BATCH)
      await door(purpose, { batch: `${purpose} ${from}`, entries: entries.slice(from, from + BATCH) });
}

/**
 * Tells what some customers looked at and bought in a while that has just gone by: each looks at two things, and every
 * second one buys. Told again of the same while, the door takes it once.
 * @param turn the number of the while, which decides what they choose
 * @param now the moment it ends, in milliseconds since 1970
 */
export async function tellOfAWhile(
  customers: readonly Pick<Customer, "number" | "email">[],
  door: Door,
  turn: number,
  now: number,
): Promise<void> {
  const at = new Date(now).toISOString();
  const goods = products();
  const events = customers.flatMap(({ number, email }) =>
    [1, 2].map((look) => ({
      what: "viewed",
      email,
      at,
      item: goods[(number * 7 + turn * 13 + look * 23) % goods.length].sku,
    })),
  );
  const orders = customers
    .filter((_, index) => index % 2 === 0)
    .map(({ number, email }, index) => ({
      number: `W${turn}-${index + 1}`,
      email,
      at,
      currency: "GBP",
      lines: linesOf(number, turn),
    }));
  if (events.length > 0) await door("events", { batch: `while ${turn}`, entries: events });
  if (orders.length > 0) await door("orders", { batch: `while ${turn}`, entries: orders });
}
