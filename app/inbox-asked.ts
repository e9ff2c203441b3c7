import { INBOXES, type InboxName } from "~/core/inboxes";

/** The class of mail programs that an address asks for by its `as`; nothing where it names none. */
export const inboxAsked = (asked: URLSearchParams): InboxName | undefined =>
  INBOXES.find(({ name }) => name === asked.get("as"))?.name;
