/** The relay that mail leaves by: what the environment says, or Settings, or the postroom. */
import { z } from "zod";
import { Refusal } from "../refusal";
import { seal, unseal } from "../seal";
import type { Septima } from "../septima";
import { cachedSetting, writeSetting } from "../workspace/settings";
import type { Mailboxes } from "./mailboxes";
import { CONNECTIONS, openRelay, type Relay, RelayError, type RelayOptions } from "./relay";

const ChosenSchema = z.object({
  /** `smtp://host:port` or `smtps://host:port`; empty for none. */
  address: z.string(),
  /** Whom it knows us as; empty when it asks for nobody. */
  name: z.string(),
  /** Sealed; null when there is none. */
  password: z.string().nullable(),
});
type Chosen = z.infer<typeof ChosenSchema>;

/** Where mail goes, and who says so. */
export interface RelaySetting {
  /** `nowhere`: several processes share the work, and none was set. */
  by: "environment" | "settings" | "postroom" | "nowhere";
  /** Without a name and a password. */
  address: string;
  name: string;
  hasPassword: boolean;
}

const chosenOf = (septima: Septima): Promise<Chosen> =>
  cachedSetting(septima, "relay", ChosenSchema, { address: "", name: "", password: null });

/** Where mail goes now. */
export async function relaySetting(septima: Septima): Promise<RelaySetting> {
  const { relay } = septima.config;
  if (relay !== null) {
    const { protocol, host, username, password } = new URL(relay);
    const name = decodeURIComponent(username);
    return { by: "environment", address: `${protocol}//${host}`, name, hasPassword: password !== "" };
  }
  const { address, name, password } = await chosenOf(septima);
  const by = address !== "" ? "settings" : septima.mailboxes ? "postroom" : "nowhere";
  return { by, address, name, hasPassword: password !== null };
}

/** Whether mail goes out into the world, or to the mailboxes here. */
export async function mailGoes(septima: Septima): Promise<"here" | "anywhere" | "nowhere"> {
  const { by } = await relaySetting(septima);
  return by === "postroom" ? "here" : by === "nowhere" ? by : "anywhere";
}

/** The mailboxes that mail goes to, where they are here and can be asked. */
export async function mailboxesOf(septima: Septima): Promise<Mailboxes | null> {
  return (await mailGoes(septima)) === "here" ? septima.mailboxes : null;
}

/** What somebody writes of a relay. A password of null is the one that is kept. */
export interface RelayWords {
  address: string;
  name: string;
  password: string | null;
}

/** `protocol://host:port` of what somebody wrote. @throws Refusal */
function readAddress(words: string): string {
  const bare = words.trim();
  const whole = bare.includes("://") ? bare : `smtp://${bare}`;
  const url = URL.canParse(whole) ? new URL(whole) : null;
  if (!url || !/^smtps?:$/.test(url.protocol) || url.hostname === "" || /[\s@]/.test(url.host))
    throw new Refusal(
      `“${bare}” is no address of a relay. Write it as smtp://relay.example:587, or smtps://relay.example:465.`,
    );
  if (url.username !== "" || url.password !== "" || url.pathname.length > 1 || url.search || url.hash)
    throw new Refusal(
      "Give the address without a name, a password or a path in it: they have their own fields.",
    );
  return `${url.protocol}//${url.host}`;
}

/** What was written, with the password that is kept for the same host. @throws Refusal */
async function chosenFrom(septima: Septima, { address, name, password }: RelayWords): Promise<Chosen> {
  const bare = readAddress(address);
  const before = await chosenOf(septima);
  // A password is kept for the host it was given for.
  const kept = before.address === bare && before.name === name.trim() ? before.password : null;
  const own = password === null ? kept : password === "" ? null : await seal(septima, password);
  if (name.trim() === "" && own !== null)
    throw new Refusal("A password goes with a name: write both, or neither.");
  if (name.trim() !== "" && own === null)
    throw new Refusal(`Write the password for “${name.trim()}” at ${bare}.`);
  return { address: bare, name: name.trim(), password: own };
}

/** The whole address, as a relay is opened by. */
async function opened(septima: Septima, { address, name, password }: Chosen): Promise<string> {
  if (name === "") return address;
  const url = new URL(address);
  const words = password === null ? "" : await unseal(septima, password);
  return `${url.protocol}//${encodeURIComponent(name)}:${encodeURIComponent(words)}@${url.host}`;
}

/**
 * Sets the relay, or with an empty address takes it away.
 * @throws Refusal when it is no address, the environment has the say, or messages are on their way through the last one
 */
export async function setRelay(septima: Septima, words: RelayWords): Promise<void> {
  if (septima.config.relay !== null)
    throw new Refusal("The relay is set where Septima is started (SEPTIMA_SMTP): change it there.", 409);
  const chosen: Chosen =
    words.address.trim() === ""
      ? { address: "", name: "", password: null }
      : await chosenFrom(septima, words);
  const [busy] = await septima.db.query("select 1 from recipients where state = 'handing' limit 1");
  if (busy)
    throw new Refusal(
      "Messages are being handed over at this moment. Pause the sending, and change the relay then.",
      409,
    );
  await writeSetting(septima, "relay", chosen);
}

/**
 * Tries a relay as it is written, or the one that is set: whether it lets us in. Nothing is sent.
 * @returns whether it was talked to encrypted, and how long it took, in milliseconds
 * @throws Refusal in the words of what was wrong
 */
export async function tryRelay(
  septima: Septima,
  words: RelayWords | null,
  options: RelayOptions = {},
): Promise<{ encrypted: boolean; ms: number }> {
  const address =
    words && septima.config.relay === null
      ? await opened(septima, await chosenFrom(septima, words))
      : await addressNow(septima);
  const begun = performance.now();
  const relay = openRelay(address, { ...options, connections: 1, patience: 0 });
  try {
    const { encrypted } = await relay.greet();
    return { encrypted, ms: Math.round(performance.now() - begun) };
  } catch (error) {
    if (error instanceof RelayError) throw new Refusal(error.message);
    throw error;
  } finally {
    await relay.close();
  }
}

/** @throws RelayError when there is none */
async function addressNow(septima: Septima): Promise<string> {
  if (septima.config.relay !== null) return septima.config.relay;
  const chosen = await chosenOf(septima);
  if (chosen.address !== "") return opened(septima, chosen);
  if (septima.config.postroom !== null) return septima.config.postroom;
  throw new RelayError(
    "No relay is set: mail has nowhere to go. Set one in Settings, under Sending, or start Septima with SEPTIMA_SMTP.",
    "closed",
  );
}

/** A relay that was opened, and how many messages are on their way through it. */
interface Open {
  address: string;
  relay: Relay;
  busy: number;
  left: boolean;
}

/** The relay that is set, whichever that is at the moment: what is on its way through the last one comes to its end there. */
export function openChosenRelay(septima: () => Septima, options: RelayOptions = {}): Relay {
  let now: Open | null = null;
  const end = (it: Open) => {
    if (it.left && it.busy === 0) void it.relay.close();
  };
  const current = async (): Promise<Open> => {
    const address = await addressNow(septima()).catch((error) => {
      // What is sealed cannot be opened: that concerns every message.
      throw error instanceof Refusal ? new RelayError(error.message, "closed") : error;
    });
    if (now?.address === address) return now;
    const before = now;
    now = { address, relay: openRelay(address, options), busy: 0, left: false };
    if (before) {
      before.left = true;
      end(before);
    }
    return now;
  };
  return {
    connections: CONNECTIONS,
    async send(...given) {
      const it = await current();
      it.busy++;
      try {
        await it.relay.send(...given);
      } finally {
        it.busy--;
        end(it);
      }
    },
    async close() {
      await now?.relay.close();
    },
  };
}
