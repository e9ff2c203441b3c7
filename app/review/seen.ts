import type { InboxName } from "~/core/inboxes";
import { inboxAsked } from "../inbox-asked";

/** What of an email is asked for: an edition by its number, as a class of mail programs or as text; as it is sent where it does not say. */
export function seenOf(request: Request): { edition: number; inbox: InboxName | "text" | null } {
  const asked = new URL(request.url).searchParams;
  const inbox = asked.get("as") === "text" ? "text" : (inboxAsked(asked) ?? null);
  return { edition: Number(asked.get("edition")) || 1, inbox };
}
