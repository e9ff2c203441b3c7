import { whenIdle } from "../../ui/when-idle";

type Engine = typeof import("./engine");

let loaded: Engine | null = null;

/** The editors of words, when they are here already. */
export const engineNow = (): Engine | null => loaded;

/** Loads the editors of words, once. */
export async function loadEngine(): Promise<Engine> {
  loaded ??= await import("./engine");
  return loaded;
}

/** Loads them when nothing else is to be done, so that the email is drawn first. */
export function loadWhenIdle(): Promise<Engine> {
  return new Promise((resolve, reject) => {
    whenIdle(() => void loadEngine().then(resolve, reject), 400);
  });
}
