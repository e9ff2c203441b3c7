import { z } from "zod";
import { follow, goneFrom, type Standing, seenIn } from "~/server/campaigns/windows";
import { eventStream } from "../event-stream";
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

/** How the design stands, as long as the window is open. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const window = Window.safeParse(new URL(request.url).searchParams.get("window"));
  if (!window.success) throw new Response("Which window?", { status: 400 });
  return eventStream<Standing>(request, septima.stopping, (told, closed) =>
    follow(septima, params.campaign, window.data, told, closed),
  );
}
