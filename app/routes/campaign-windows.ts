import { z } from "zod";
import { follow, goneFrom, type Standing, seenIn } from "~/server/campaigns/windows";
import { jsonInput } from "../input";
import type { Route } from "./+types/campaign-windows";

const Window = z.string().min(4).max(60);
const Body = z.object({ window: Window, closed: z.boolean().optional() });

/** A window that cannot follow says from time to time that it is open, and asks. */
export async function action({ context, params, request }: Route.ActionArgs) {
  const { window, closed } = await jsonInput(request, Body);
  if (!closed) return seenIn(context.septima, params.campaign, window);
  await goneFrom(context.septima, params.campaign, window);
  return null;
}

/** How the design stands, as long as the window is open (server-sent events, HTML Living Standard, 9.2). */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const window = Window.safeParse(new URL(request.url).searchParams.get("window"));
  if (!window.success) throw new Response("Which window?", { status: 400 });
  const { septima } = context;
  const closing = new AbortController();
  const closed = AbortSignal.any([closing.signal, request.signal, septima.stopping]);
  const words = new TextEncoder();
  const said: Standing[] = [];
  let left = false;
  let say: (standing: Standing) => void = (standing) => said.push(standing);
  try {
    await follow(septima, params.campaign, window.data, (standing) => say(standing), closed);
  } catch (error) {
    closing.abort();
    throw error;
  }
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      say = (standing) => stream.enqueue(words.encode(`data: ${JSON.stringify(standing)}\n\n`));
      for (const standing of said) say(standing);
      closed.addEventListener("abort", () => {
        if (!left) stream.close();
      });
    },
    cancel() {
      left = true;
      closing.abort();
    },
  });
  return new Response(body, {
    headers: {
      "content-type": "text/event-stream",
      "cache-control": "no-cache, no-transform",
      // What stands in front of the program passes it on at once.
      "x-accel-buffering": "no",
    },
  });
}
