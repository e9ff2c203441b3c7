import { z } from "zod";
import { cleaned } from "~/core/assistant";
import { type Answered, readAddress, resolveAddress, send, trustedBy } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { cachedSetting, writeSetting } from "../workspace/settings";

const SettingSchema = z.object({
  /** Of the web, or `standin://assistant`. */
  address: z.string(),
  /** What lets us in there; empty when nothing is asked for. It never leaves but for that address. */
  key: z.string(),
});
type Setting = z.infer<typeof SettingSchema>;

/** The simulated one that comes along. */
const OURS = "standin://assistant";

const settingOf = (septima: Septima): Promise<Setting> =>
  cachedSetting(septima, "assistant", SettingSchema, { address: OURS, key: "" });

/** Where the assistant is, as Settings show it: empty for the simulated one; of a key only that there is one. */
export async function assistantSetting(septima: Septima): Promise<{ address: string; hasKey: boolean }> {
  const { address, key } = await settingOf(septima);
  return { address: address === OURS ? "" : address, hasKey: key !== "" };
}

/**
 * Sets where the assistant is. A key is kept for the host it was given for, and goes with it.
 * @param key a new one; null keeps the one that is there
 * @throws Refusal when it is no address
 */
export async function setAssistant(septima: Septima, address: string, key: string | null): Promise<void> {
  const bare = address.trim().replace(/\/+$/, "");
  if (/[\r\n]/.test(key ?? "") || /[^\x20-\x7e]/.test(key ?? ""))
    throw new Refusal("A key is one line of plain letters, digits and signs.");
  const before = await settingOf(septima);
  if (bare === "") return writeSetting(septima, "assistant", { address: OURS, key: "" });
  const { origin, username, search, hash } = readAddress(bare);
  if (username !== "" || search !== "" || hash !== "")
    throw new Refusal(
      "Give the address without a name, a question mark or a # in it. A key has its own field.",
    );
  const same = before.address !== OURS && readAddress(before.address).origin === origin;
  await writeSetting(septima, "assistant", {
    address: bare,
    key: key === null ? (same ? before.key : "") : key.trim(),
  });
}

/** What it may take: milliseconds until the whole answer is there, and octets of it. */
const LIMITS = { ms: 60_000, bytes: 500_000 };

/**
 * Asks the assistant, and gives what it sent as JSON; nothing about its shape is known yet.
 * @param path of the interface, such as `/rewrite`; without a body it is a GET
 * @throws Refusal with a sentence that names the assistant's host and what to do
 */
export async function askAssistant(
  septima: Septima,
  path: string,
  body?: unknown,
  { signal, ...limits }: Partial<typeof LIMITS> & { signal?: AbortSignal } = {},
): Promise<{ host: string; said: unknown }> {
  const { address, key } = await settingOf(septima);
  const url = readAddress(resolveAddress(septima, address).replace(/\/+$/, "") + path);
  const answered = await send(
    url,
    {
      method: body === undefined ? "GET" : "POST",
      headers: {
        accept: "application/json",
        ...(body !== undefined && { "content-type": "application/json" }),
        ...(key !== "" && { authorization: `Bearer ${key}` }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
      signal,
    },
    trustedBy(septima),
    { ...LIMITS, ...limits },
  ).catch((error) => {
    if (error instanceof Refusal && /private network/.test(error.message))
      throw new Refusal(
        `${error.message} For one of your own, start Septima with SEPTIMA_STANDINS=own=${url.origin}`,
      );
    throw error;
  });
  if (answered.status !== 200) throw new Refusal(unwilling(url.host, answered));
  try {
    return {
      host: url.host,
      said: JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(answered.body)),
    };
  } catch {
    throw new Refusal(
      `The assistant at ${url.host} answered, but not with JSON. Check its address in Settings.`,
    );
  }
}

/** Why it would not, as far as its status says; with its own words when it has some. */
function unwilling(host: string, { status, headers, body }: Answered): string {
  const who = `The assistant at ${host}`;
  const wait = /^\d{1,5}$/.test(headers["retry-after"] ?? "")
    ? ` in ${headers["retry-after"]} seconds`
    : " later";
  const why = ((): string => {
    if (status === 401 || status === 403)
      return `${who} does not let us in (${status}). Check its key in Settings.`;
    if (status === 404) return `${who} has nothing there (404). Check its address in Settings.`;
    if (status === 429) return `${who} is asked too often (429). Try again${wait}.`;
    if (status >= 300 && status < 400)
      return `${who} sends us on to another address, which is not followed. Put the address meant into Settings.`;
    if (status >= 500) return `${who} has a fault on its side (${status}). Try again${wait}.`;
    return `${who} answered ${status}.`;
  })();
  const words = ownWords(body);
  return words === "" ? why : `${why} It says: “${words}”`;
}

function ownWords(body: Buffer): string {
  try {
    const { problem } = JSON.parse(body.toString("utf8")) as { problem?: unknown };
    return typeof problem === "string" ? cleaned(problem).replace(/\s+/g, " ").trim().slice(0, 200) : "";
  } catch {
    return "";
  }
}
