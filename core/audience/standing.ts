/** Groups that Septima keeps by itself, each a rule of the day. */
import type { ContactStatus } from "./contact";
import type { AudienceContext } from "./context";
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

/** All of them; their ids are kept in rules, so they stay. */
export const STANDING_GROUPS: readonly StandingGroup[] = [
  {
    id: "joined-this-month",
    name: "New this month",
    about: "Came in since the first of the month.",
    rule: ({ today }) => ({
      kind: "field",
      field: "joined",
      op: "onOrAfter",
      value: `${today.slice(0, 8)}01`,
    }),
  },
  {
    id: "birthday-soon",
    name: "Birthday within a week",
    about: "Today, or in the next seven days.",
    rule: () => ({ kind: "field", field: "birthday", op: "anniversaryWithin", value: 7 }),
  },
  {
    id: "never-opened",
    name: "Never opened",
    about: "Got at least one letter and opened none.",
    rule: () => ({
      kind: "all",
      of: [
        { kind: "did", what: "sent", often: "atLeast", times: 1 },
        { kind: "did", what: "opened", often: "atMost", times: 0 },
      ],
    }),
  },
  {
    id: "gone-quiet",
    name: "Gone quiet",
    about: "Opened before, but nothing for half a year, though letters were sent.",
    rule: () => ({
      kind: "all",
      of: [
        { kind: "did", what: "opened", often: "atLeast", times: 1 },
        { kind: "did", what: "sent", often: "atLeast", times: 1, within: HALF_YEAR },
        { kind: "did", what: "opened", often: "atMost", times: 0, within: HALF_YEAR },
      ],
    }),
  },
  {
    id: "new-buyers",
    name: "Bought once",
    about: "One order so far.",
    rule: () => ({
      kind: "all",
      of: [
        { kind: "did", what: "bought", often: "atLeast", times: 1 },
        { kind: "did", what: "bought", often: "atMost", times: 1 },
      ],
    }),
  },
  {
    id: "lapsed-buyers",
    name: "Lapsed buyers",
    about: "Bought before, but not in the last year.",
    rule: () => ({
      kind: "all",
      of: [
        { kind: "did", what: "bought", often: "atLeast", times: 1 },
        { kind: "did", what: "bought", often: "atMost", times: 0, within: YEAR },
      ],
    }),
  },
  {
    id: "nameless",
    name: "Without a name",
    about: "Neither first nor last name is known.",
    rule: () => ({
      kind: "all",
      of: [
        { kind: "field", field: "first_name", op: "unknown" },
        { kind: "field", field: "last_name", op: "unknown" },
      ],
    }),
  },
  {
    id: "unsubscribed",
    name: "Unsubscribed",
    about: "Asked for no more letters. Nobody can write to them.",
    status: "unsubscribed",
    rule: () => ({ kind: "status", status: "unsubscribed" }),
  },
  {
    id: "bounced",
    name: "Bounced",
    about: "Their address takes no mail. Nobody can write to them.",
    status: "bounced",
    rule: () => ({ kind: "status", status: "bounced" }),
  },
  {
    id: "complained",
    name: "Complained",
    about: "Called a letter spam. Nobody can write to them.",
    status: "complained",
    rule: () => ({ kind: "status", status: "complained" }),
  },
  {
    id: "removed",
    name: "Removed",
    about: "Out of sight everywhere else, until they are brought back.",
    status: "removed",
    rule: () => ({ kind: "status", status: "removed" }),
  },
];

const byId = new Map(STANDING_GROUPS.map((group) => [group.id, group]));

export function standingGroup(id: string): StandingGroup | null {
  return byId.get(id) ?? null;
}

/** What tells a group from all others, whatever kinds they are of. */
export const groupKey = ({ kind, id }: { kind: string; id: string }): string => `${kind} ${id}`;
