import { sheetNumbers } from "~/server/dispatch/sheet";
import type { Route } from "./+types/send-sheet";

/** What the sheet says as things are now: it may take a while with many readers. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const reader = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  return sheetNumbers(septima, params.campaign, reader);
}
