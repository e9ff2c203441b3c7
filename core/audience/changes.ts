/** What is changed of a contact, and taking it back where nobody has changed it again since. */
import { same as sameValue } from "../values";
import type { ContactStatus, FieldValue } from "./contact";

/** What of a contact can be changed for many at once. */
export interface ContactState {
  status: ContactStatus;
  fields: Readonly<Record<string, unknown>>;
  lists: readonly string[];
}

/** What is to be: what is not named stays. A field of null is taken away. */
export interface Wanted {
  status?: ContactStatus;
  fields?: Readonly<Record<string, FieldValue>>;
  join?: readonly string[];
  leave?: readonly string[];
}

/** What was there before, of what was changed; null stands for nothing. */
interface Before {
  status?: ContactStatus;
  fields?: Readonly<Record<string, unknown>>;
}

/** What a change really did to a contact, and what was there before. */
export interface Done {
  before: Before;
  after: Wanted;
}

/** Nothing is told apart from null no more than from what is missing. */
const same = (one: unknown, other: unknown) => sameValue(one ?? null, other ?? null);

const without = (fields: Readonly<Record<string, unknown>>) =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null && value !== undefined));

/** The contact after a change, and what it did; null when it comes to nothing. */
export function change(contact: ContactState, wanted: Wanted): { next: ContactState; done: Done } | null {
  const fields = Object.entries(wanted.fields ?? {}).filter(
    ([key, value]) => !same(contact.fields[key], value),
  );
  const join = (wanted.join ?? []).filter((list) => !contact.lists.includes(list));
  const leave = (wanted.leave ?? []).filter((list) => contact.lists.includes(list));
  const status = wanted.status !== undefined && wanted.status !== contact.status ? wanted.status : undefined;
  if (fields.length === 0 && join.length === 0 && leave.length === 0 && status === undefined) return null;
  const done: Done = {
    before: {
      ...(status !== undefined && { status: contact.status }),
      ...(fields.length > 0 && {
        fields: Object.fromEntries(fields.map(([key]) => [key, contact.fields[key] ?? null])),
      }),
    },
    after: {
      ...(status !== undefined && { status }),
      ...(fields.length > 0 && { fields: Object.fromEntries(fields) }),
      ...(join.length > 0 && { join }),
      ...(leave.length > 0 && { leave }),
    },
  };
  return { next: applied(contact, done.after), done };
}

function applied(contact: ContactState, { status, fields, join = [], leave = [] }: Wanted): ContactState {
  return {
    status: status ?? contact.status,
    fields: fields ? without({ ...contact.fields, ...fields }) : contact.fields,
    lists: [...contact.lists.filter((list) => !leave.includes(list)), ...join],
  };
}

/** Two changes of one contact, one after the other, as one. */
export function together(first: Done, second: Done): Done {
  const join = new Set(first.after.join);
  const leave = new Set(first.after.leave);
  // What joined and left again was not on the list, and the other way round.
  for (const list of second.after.join ?? []) if (!leave.delete(list)) join.add(list);
  for (const list of second.after.leave ?? []) if (!join.delete(list)) leave.add(list);
  const status = second.after.status ?? first.after.status;
  const fields = { ...first.after.fields, ...second.after.fields };
  return {
    before: {
      ...second.before,
      ...first.before,
      ...((first.before.fields || second.before.fields) && {
        fields: { ...second.before.fields, ...first.before.fields },
      }),
    },
    after: {
      ...(status !== undefined && { status }),
      ...(Object.keys(fields).length > 0 && { fields }),
      ...(join.size > 0 && { join: [...join] }),
      ...(leave.size > 0 && { leave: [...leave] }),
    },
  };
}

/** The contact with a change taken back. What somebody changed again since stays as they left it. */
export function undone(contact: ContactState, { before, after }: Done): ContactState {
  const back = Object.entries(after.fields ?? {}).filter(([key, value]) => same(contact.fields[key], value));
  const was = before.fields ?? {};
  return {
    status:
      after.status !== undefined && before.status !== undefined && contact.status === after.status
        ? before.status
        : contact.status,
    fields:
      back.length > 0
        ? without({ ...contact.fields, ...Object.fromEntries(back.map(([key]) => [key, was[key] ?? null])) })
        : contact.fields,
    lists: [
      ...contact.lists.filter((list) => !after.join?.includes(list)),
      ...(after.leave ?? []).filter((list) => !contact.lists.includes(list)),
    ],
  };
}
