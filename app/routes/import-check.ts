import { PlanSchema } from "~/core/importing";
import { checkImport } from "~/server/audience/import-check";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/import-check";

/** So often is said how far it is, in milliseconds. */
const SAY = 200;

/** What a plan would come to: lines of JSON, with how far it is, and at last the answer. */
export async function action({ context: { septima }, params, request }: Route.ActionArgs) {
  const plan = await jsonInput(request, PlanSchema);
  const ending = new AbortController();
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (line: unknown) => controller.enqueue(encoder.encode(`${JSON.stringify(line)}\n`));
      let said = 0;
      try {
        const { data } = await orProblem(() =>
          checkImport(septima, params.file, plan, {
            signal: ending.signal,
            onProgress({ seen }) {
              if (septima.now() - said < SAY) return;
              said = septima.now();
              say({ seen });
            },
          }),
        );
        say(data);
        controller.close();
      } catch (error) {
        // Whoever asked has gone, or it is ours: then the answer just ends.
        if (!ending.signal.aborted) controller.error(error);
      }
    },
    cancel: () => ending.abort(),
  });
  return new Response(stream, {
    headers: { "content-type": "application/x-ndjson", "cache-control": "no-store" },
  });
}
