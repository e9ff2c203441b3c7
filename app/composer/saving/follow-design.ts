import { placeToBeTold } from "../../ui/followed";
import type { Composer } from "../state/store";
import type { Autosave } from "./autosave";
import { StandingSchema } from "./wire";

/** So often a window that is not told asks, in milliseconds; and so long it waits to be told for the first time. */
const ASK_EVERY = 10_000;

/**
 * Learns at once of other windows and of what they saved: the server tells it (server-sent events). A window that is one
 * of too many, or behind something that holds back what is told, asks from time to time instead. Returns how to stop.
 */
export function followDesign(
  campaign: string,
  id: string,
  store: Composer,
  autosave: Pick<Autosave, "heard">,
): () => void {
  const address = `/campaigns/${campaign}/windows`;
  let ended = false;
  let source: EventSource | null = null;
  let silent: ReturnType<typeof setTimeout> | undefined;
  let mayBeTold = true;
  let letGo: (() => void) | null = null;

  const hear = (said: unknown) => {
    const { others, revision } = StandingSchema.parse(said);
    if (others !== store.getState().others) store.setState({ others });
    return autosave.heard(revision);
  };
  const close = () => {
    source?.close();
    source = null;
    clearTimeout(silent);
    letGo?.();
    letGo = null;
  };
  const open = () => {
    source = new EventSource(`${address}?window=${encodeURIComponent(id)}`);
    silent = setTimeout(() => {
      mayBeTold = false;
      close();
      void ask();
    }, ASK_EVERY);
    source.onmessage = ({ data }) => {
      clearTimeout(silent);
      // It is told from time to time even when nothing happens: a connection that died unnoticed is opened anew.
      silent = setTimeout(close, 3 * ASK_EVERY);
      void hear(JSON.parse(data as string)).catch(() => undefined);
    };
    source.onerror = () => {
      // Otherwise the browser tries again by itself.
      if (source?.readyState === EventSource.CLOSED) close();
    };
  };
  const tell = (body: object) =>
    fetch(address, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
      keepalive: true,
    });
  const ask = async () => {
    try {
      const response = await tell({ window: id });
      if (response.ok) await hear(await response.json());
    } catch {
      // The server is away: saving says so.
    }
  };
  const turn = async () => {
    if (source) return;
    letGo = mayBeTold ? await placeToBeTold() : null;
    if (ended) close();
    else if (letGo) open();
    else await ask();
  };
  const leave = () => {
    const told = source !== null;
    close();
    // The server sees by itself that one it tells has closed.
    if (!told) void tell({ window: id, closed: true }).catch(() => undefined);
  };
  void turn();
  const timer = setInterval(() => void turn(), ASK_EVERY);
  window.addEventListener("pagehide", leave);
  return () => {
    ended = true;
    clearInterval(timer);
    window.removeEventListener("pagehide", leave);
    leave();
  };
}
