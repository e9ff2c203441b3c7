-- How many readers the sender confirmed, and by how many percent their number may have changed when it begins: null as
-- usual, 100 and more whatever it is. When there were clearly more or fewer, how many there were.
alter table dispatches add column confirmed integer;
update dispatches set confirmed = total;
alter table dispatches add column tolerance integer;
alter table dispatches add column found integer;

-- When somebody changed a contact by hand, or they themselves did: undoing an import does not take them away.
alter table contacts add column edited_at timestamptz;

-- Contacts that an import made and that stayed when it was taken back, each with why.
create table kept_contacts (
  change_id text not null,
  contact_id integer not null,
  why text not null,
  primary key (change_id, contact_id)
);

-- What contacts had in a field that was removed, until it is brought back or another one takes its key.
create table removed_values (
  field text not null,
  contact_id integer not null,
  value jsonb not null,
  primary key (field, contact_id)
);

-- Changes that reach many designs one after the other, from when they begin until the last is done: what a process left in
-- the middle is done by the next.
create table carrying (
  id text primary key,
  kind text not null,
  data jsonb not null,
  begun_at timestamptz not null
);
