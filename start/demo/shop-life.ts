/**
 * The shop goes on while the demo runs: each hour some of its customers look and buy, which it tells through the door over
 * HTTP, as any shop would.
 */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Septima } from "~/server/septima";
import { type Customer, type Door, tellOfAWhile } from "~/standins/shop/trade";

const HOUR = 3_600_000;
/** At most so many customers come in one while. */
const MOST = 6;

/** Where the shop keeps its key: a system of its own, that happens to live beside this one. */
const keyFile = ({ config }: Septima) => path.join(config.data, "shop", "key");

/** Keeps the key that the shop speaks to the door by. */
export async function keepShopKey(septima: Septima, key: string): Promise<void> {
  const file = keyFile(septima);
  await mkdir(path.dirname(file), { recursive: true });
  await writeFile(file, key, { mode: 0o600 });
}

/** Speaks to the door of a running program. @throws Error with what the door says where it takes nothing */
export const doorAt =
  (address: string, key: string): Door =>
  async (purpose, body) => {
    const answer = await fetch(`${address}/in/${purpose}`, {
      method: "POST",
      headers: { authorization: `Bearer ${key}`, "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(((await answer.json()) as { problem: string }).problem);
  };

/** Who comes in a while: others each time, and the same for the same one. */
function customersOf({ db }: Septima, turn: number): Promise<Pick<Customer, "number" | "email">[]> {
  return db.query(
    `select id as number, email from contacts where fields ? 'last_order' and status = 'subscribed'
     order by (id * 7919 + $1::bigint * 104729) % 99991, id limit $2`,
    [turn, 1 + (turn % MOST)],
  );
}

/**
 * One while of the shop, which is the same whenever it is told of: of two that tell, the door takes one.
 * @param turn its number, counted since 1970 @param every how long it is, in milliseconds
 */
export async function letShopWork(septima: Septima, door: Door, turn: number, every = HOUR): Promise<void> {
  await tellOfAWhile(await customersOf(septima, turn), door, turn, turn * every);
}

/**
 * Lets the shop go on until it is stopped; a workspace that did not begin with the demo has none.
 * @param address where the door is
 * @param every how long a while is, in milliseconds; 0 lets nothing happen
 * @param say hears why the shop ends: its key was withdrawn, or the like
 */
export async function letShopLive(
  septima: Septima,
  address: string,
  say: (what: string) => void,
  every = HOUR,
): Promise<() => void> {
  const key = every > 0 && (await readFile(keyFile(septima), "utf8").catch(() => null));
  if (!key) return () => undefined;
  const door = doorAt(address, key);
  let busy = false;
  const work = async () => {
    if (busy) return;
    busy = true;
    try {
      await letShopWork(septima, door, Math.floor(septima.now() / every), every);
    } catch (error) {
      // Whom it cannot reach it tries again; who sends it away has had enough of it.
      if (error instanceof TypeError) return;
      clearInterval(timer);
      say(`The shop of the demo stops: ${(error as Error).message}`);
    } finally {
      busy = false;
    }
  };
  const timer = setInterval(() => void work(), every);
  timer.unref();
  return () => clearInterval(timer);
}
