/**
 * What loaders and actions throw that whoever asked can mend is answered with its sentence and status; in one place, so
 * that no route can forget it.
 */
import { data, type ServerBuild } from "react-router";
import { RuleError } from "~/core/audience";
import { Refusal } from "~/server/refusal";

type Handler = (args: never) => unknown;

/** The answer to an error that is no fault of ours; null for one that is. */
export function answerTo(error: unknown): { words: string; status: number } | null {
  if (error instanceof Refusal) return { words: error.message, status: error.status };
  if (error instanceof RuleError) return { words: error.message, status: 400 };
  if (!(error instanceof Error)) return null;
  // A number too large for its column, a sign that no text has, and what else of the values the database does not take
  // (SQLSTATE class 22).
  const { code } = error as { code?: unknown };
  if (typeof code === "string" && /^22[0-9A-Z]{3}$/.test(code))
    return { words: `A value in it cannot be kept: ${error.message}.`, status: 400 };
  if (error instanceof RangeError && /call stack/.test(error.message))
    return { words: "It is nested too deep to be read.", status: 400 };
  return null;
}

const guard =
  (handler: Handler): Handler =>
  async (args) => {
    try {
      return await handler(args);
    } catch (error) {
      const answer = answerTo(error);
      if (answer) throw data(answer.words, { status: answer.status });
      throw error;
    }
  };

/** The same routes, each guarded. */
export function guarded(build: ServerBuild): ServerBuild {
  const routes = Object.entries(build.routes).map(([id, route]) => {
    if (!route) return [id, route] as const;
    const { loader, action } = route.module;
    const module = {
      ...route.module,
      ...(loader && { loader: guard(loader as Handler) }),
      ...(action && { action: guard(action as Handler) }),
    };
    return [id, { ...route, module }] as const;
  });
  return { ...build, routes: Object.fromEntries(routes) } as ServerBuild;
}
