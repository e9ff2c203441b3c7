/**
 * What readers see: one message as each class of mail program shows it, told by what it does.
 *
 * `INBOXES` are the classes; `asSeen` turns a message's HTML into what is left of it there, as a page that any browser
 * shows the same; `pairsOf` finds every pair of words and ground in such a page, with their contrast.
 */
export { INBOXES, type Inbox, type InboxName } from "./classes";
export { CLIPPED, withClip } from "./clip";
export { type Outline, outlineOf } from "./outline";
export { type Pair, pairsOf, wanted } from "./pairs";
export { asSeen } from "./seen";
export { inboxesPage } from "./sheet";
