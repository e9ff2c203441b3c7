/** What pages have done by the server with a body in JSON. What goes in and comes out is told to `requests.ts` by its type. */
import type { LoaderFunctionArgs } from "react-router";
import { z } from "zod";
import { jsonInput } from "./input";
import { type Answer, orProblem } from "./refusal";

type Args = LoaderFunctionArgs;

/** An action that takes one thing, or one of several, and gives something for each. */
export interface Action<A extends Args, Way> {
  (args: A): Promise<{ data: Answer<unknown> }>;
  /** Only a type: the pairs of what is taken and given. */
  readonly ways?: Way;
}

/** One thing an action does: the shape of what it takes, and how it is done. A Refusal thrown is its answer. */
export interface Way<S extends z.ZodType, A extends Args, R> {
  takes: S;
  does(given: z.output<S>, args: A): R | Promise<R>;
}

export const way = <S extends z.ZodType, A extends Args, R>(
  takes: S,
  does: Way<S, A, R>["does"],
): Way<S, A, R> => ({ takes, does });

/** An action that does one thing. */
export function action<S extends z.ZodType, A extends Args, R>(
  takes: S,
  does: Way<S, A, R>["does"],
): Action<A, { takes: z.input<S>; gives: R }> {
  return async (args) => {
    const given = await jsonInput(args.request, takes);
    return orProblem<unknown>(async () => does(given, args));
  };
}

// biome-ignore lint/suspicious/noExplicitAny: each has shapes of its own
type Ways = Record<string, Way<z.ZodObject, any, any>>;
type ArgsOf<W extends Ways> = Parameters<W[keyof W]["does"]>[1];
type Pairs<W extends Ways> = {
  [K in keyof W]: {
    takes: { intent: K } & z.input<W[K]["takes"]>;
    gives: Awaited<ReturnType<W[K]["does"]>>;
  };
}[keyof W];

/** An action that does one of several things: what is sent says which by its `intent`. */
export function actions<W extends Ways>(ways: W): Action<ArgsOf<W>, Pairs<W>> {
  const shapes = Object.entries(ways).map(([intent, { takes }]) =>
    takes.extend({ intent: z.literal(intent) }),
  );
  const Body = z.discriminatedUnion("intent", shapes as unknown as [z.ZodObject]);
  return async (args) => {
    const { intent, ...given } = (await jsonInput(args.request, Body)) as { intent: string };
    return orProblem<unknown>(async () => ways[intent].does(given, args));
  };
}
