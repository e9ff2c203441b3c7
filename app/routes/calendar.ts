import { createHash } from "node:crypto";
import { calendarEntry, iCalendar } from "~/core/blocks";
import { Refusal } from "~/server/refusal";
import { fileAnswer } from "../file-answer";
import type { Route } from "./+types/calendar";

/** The iCalendar file behind an “add to calendar” button. */
export async function loader({ context, request }: Route.LoaderArgs) {
  const { search, searchParams, hostname } = new URL(request.url);
  const entry = calendarEntry(searchParams);
  if (!entry) throw new Refusal("This link is not complete. Open it from the email once more.", 404);
  const uid = `${createHash("sha256").update(search).digest("hex").slice(0, 32)}@${hostname}`;
  const file = iCalendar(entry, uid, context.septima.now());
  return fileAnswer("text/calendar; charset=utf-8", file, "never", "appointment.ics");
}
