/** Groups that Septima keeps by itself, each a rule of the day. */
import type { ContactStatus } from "./contact";
import type { AudienceContext } from "./context";
import type { DidRule } from "./did-rule";
import type { Rule } from "./rule";

export interface StandingGroup {
  id: string;
  name: string;
  about: string;
  /** Of a group of those who cannot be written to: what they are. */
  status?: ContactStatus;
  rule(context: Pick<AudienceContext, "today">): Rule;
}

const HALF_YEAR = { months: 6 };
const YEAR = { months: 12 };

const all = (...of: Rule[]): Rule => ({ kind: "all", of });
const once = (what: DidRule["what"], within?: DidRule["within"]) =>
  ({ kind: "did", what, often: "atLeast", times: 1, ...(within && { within }) }) as Rule;
const most = (times: number, what: DidRule["what"], within?: DidRule["within"]) =>
  ({ kind: "did", what, often: "atMost", times, ...(within && { within }) }) as Rule;
const unknown = (field: string): Rule => ({ kind: "field", field, op: "unknown" });

const living = (id: string, name: string, about: string, rule: StandingGroup["rule"]): StandingGroup => ({
  id,
  name,
  about,
  rule,
});
/** Those who cannot be written to. */
const silent = (status: ContactStatus, name: string, about: string): StandingGroup => ({
  id: status,
  name,
  about,
  status,
  rule: () => ({ kind: "status", status }),
});

/** All of them; their ids are kept in rules, so they stay. */
export const STANDING_GROUPS: readonly StandingGroup[] = [
  living("joined-this-month", "New this month", "Came in since the first of the month.", ({ today }) => ({
    kind: "field",
    field: "joined",
    op: "onOrAfter",
    value: `${today.slice(0, 8)}01`,
  })),
  living("birthday-soon", "Birthday within a week", "Today, or in the next seven days.", () => ({
    kind: "field",
    field: "birthday",
    op: "anniversaryWithin",
    value: 7,
  })),
  living("never-opened", "Never opened", "Got at least one letter and opened none.", () =>
    all(once("sent"), most(0, "opened")),
  ),
  living(
    "gone-quiet",
    "Gone quiet",
    "Opened before, but nothing for half a year, though letters were sent.",
    () => all(once("opened"), once("sent", HALF_YEAR), most(0, "opened", HALF_YEAR)),
  ),
  living("new-buyers", "Bought once", "One order so far.", () => all(once("bought"), most(1, "bought"))),
  living("lapsed-buyers", "Lapsed buyers", "Bought before, but not in the last year.", () =>
    all(once("bought"), most(0, "bought", YEAR)),
  ),
  living("nameless", "Without a name", "Neither first nor last name is known.", () =>
    all(unknown("first_name"), unknown("last_name")),
  ),
  silent("unsubscribed", "Unsubscribed", "Asked for no more letters. Nobody can write to them."),
  silent("bounced", "Bounced", "Their address takes no mail. Nobody can write to them."),
  silent("complained", "Complained", "Called a letter spam. Nobody can write to them."),
  silent("removed", "Removed", "Out of sight everywhere else, until they are brought back."),
];

const byId = new Map(STANDING_GROUPS.map((group) => [group.id, group]));

export function standingGroup(id: string): StandingGroup | null {
  return byId.get(id) ?? null;
}

/** What tells a group from all others, whatever kinds they are of. */
export const groupKey = ({ kind, id }: { kind: string; id: string }): string => `${kind} ${id}`;
