/** How pages call the server besides being loaded by it: each route by its path, with the types that its own file has. */
import { href, type Register } from "react-router";
import type { Action } from "./deeds";
import type { Answer } from "./refusal";

export type { Answer } from "./refusal";

type Files = Register["routeFiles"];
type Modules = Register["routeModules"];
type Path = keyof Register["pages"] & string;
type Params<P extends Path> = Register["pages"][P]["params"];

/** The file of a path: of all whose pages it is, the one that has no other. */
type ModuleOf<P extends Path> = {
  [F in keyof Files]: [Files[F]["page"]] extends [P] ? Modules[Files[F]["id"]] : never;
}[keyof Files];

/** What is left of a value on the way through JSON. */
type Json<T> = T extends Date
  ? string
  : T extends (...given: never[]) => unknown
    ? never
    : T extends object
      ? { [K in keyof T]: Json<T[K]> }
      : T;

/** What can be read as a value: lists need not be ones that can be changed. */
type Read<T> = T extends readonly (infer E)[]
  ? readonly Read<E>[]
  : T extends object
    ? { [K in keyof T]: Read<T[K]> }
    : T;

type Loaded<P extends Path> =
  ModuleOf<P> extends { loader: (...given: never[]) => infer R } ? Json<Awaited<R>> : never;

type WayOf<P extends Path> = ModuleOf<P> extends { action: Action<never, infer W> } ? NonNullable<W> : never;
/** What can be told at a path. */
export type Taken<P extends Path> = WayOf<P> extends { takes: infer T } ? Read<T> : never;
/** Of the ways of an action, that which takes this. */
type Gives<W, B> = W extends { takes: infer T; gives: infer R }
  ? B extends Read<T>
    ? Json<R>
    : never
  : never;

/** What comes of a form. */
type Given<P extends Path> =
  ModuleOf<P> extends { action: (...given: never[]) => Promise<{ data: infer D }> }
    ? D extends { problem: null; result: infer T }
      ? Json<T>
      : never
    : never;

interface How<P extends Path> {
  /** The named parts of the path. */
  at?: Params<P>;
  /** What stands behind the question mark. */
  query?: Readonly<Record<string, string | number | undefined>>;
  signal?: AbortSignal;
}

function addressOf<P extends Path>(path: P, { at, query = {} }: How<P>): string {
  const words = Object.entries(query).flatMap(([key, value]) =>
    value === undefined ? [] : [[key, String(value)]],
  );
  const asked = new URLSearchParams(words).toString();
  return (href as (path: string, at?: object) => string)(path, at) + (asked && `?${asked}`);
}

const AWAY = "Septima cannot be reached. Nothing is lost; try again when it is back.";
const FAILED = "It could not be done. Try again.";

/** What a response says; also that none came is an answer. */
async function answered(
  request: () => Promise<Response>,
): Promise<{ ok: boolean; said: unknown; away: boolean }> {
  try {
    const response = await request();
    const json = response.headers.get("content-type")?.includes("json");
    const said: unknown = json ? await response.json() : await response.text();
    // While it starts there is a server, and not yet what is asked for.
    return { ok: response.ok, said, away: response.status === 503 };
  } catch {
    return { ok: false, said: AWAY, away: true };
  }
}

/** The sentence of an answer that is none of what was wanted. */
export function problemOf(said: unknown): string {
  if (typeof said === "string" && said !== "") return said.slice(0, 300);
  const { problem } = (said ?? {}) as { problem?: unknown };
  return typeof problem === "string" ? problem : FAILED;
}

/**
 * Asks the server for something. That it cannot be reached, or will not, is an answer with a sentence; whoever aborts it
 * needs none.
 */
export async function ask<P extends Path>(path: P, how: How<P> = {}): Promise<Answer<Loaded<P>>> {
  const { ok, said, away } = await answered(() => fetch(addressOf(path, how), { signal: how.signal }));
  return ok ? { problem: null, result: said as Loaded<P> } : { problem: problemOf(said), result: null, away };
}

/** Has something done by the server, with a body in JSON. */
export async function tell<P extends Path, const B extends Taken<P>>(
  path: P,
  body: B,
  how: How<P> = {},
): Promise<Answer<Gives<WayOf<P>, B>>> {
  return sent(addressOf(path, how), JSON.stringify(body), how.signal);
}

/** Gives the server a form, such as one with a file in it. */
export function give<P extends Path>(path: P, form: FormData): Promise<Answer<Given<P>>> {
  return sent(path, form);
}

async function sent<T>(address: string, body: string | FormData, signal?: AbortSignal): Promise<Answer<T>> {
  const { ok, said } = await answered(() =>
    fetch(address, {
      method: "POST",
      signal,
      body,
      ...(typeof body === "string" && { headers: { "content-type": "application/json" } }),
    }),
  );
  return ok && typeof said === "object" ? (said as Answer<T>) : { problem: problemOf(said), result: null };
}

/** The result of an answer. @throws Error with its sentence */
export function resultOf<T>(answer: Answer<T>): T {
  if (answer.problem !== null) throw new Error(answer.problem);
  return answer.result;
}

/** What a question can be called off by, as an effect needs it. */
export function asking(): { signal: AbortSignal; abort(): void } {
  const controller = new AbortController();
  return { signal: controller.signal, abort: () => controller.abort() };
}
