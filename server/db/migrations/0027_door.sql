-- Keys for other systems: of the secret only a hash is kept.
create table door_keys (
  id text primary key,
  name text not null,
  -- What it may be used for.
  may text[] not null,
  secret_hash text not null,
  -- Requests in a minute.
  most integer not null,
  made_at timestamptz not null,
  used_at timestamptz,
  withdrawn_at timestamptz
);

-- Batches that were taken, under the sender's own name for each: one that comes again is told what it was told before.
create table door_batches (
  key_id text not null references door_keys (id) on delete cascade,
  path text not null,
  batch text not null,
  digest text not null,
  answer jsonb not null,
  at timestamptz not null,
  primary key (key_id, path, batch)
);
create index door_batches_at on door_batches (at);

-- What contacts did elsewhere: looked at an item, or something the other system has a word for.
create table deeds (
  contact_id integer not null,
  at timestamptz not null,
  what text not null,
  -- An item of a source, by the id its source gives it; null for what is about none.
  item text
);
create index deeds_contact on deeds (contact_id, at);
create index deeds_at on deeds (at);
create trigger tell_of_changes after insert or update or delete or truncate on deeds
  for each statement execute function tell_of_changes('behaviour');

-- Another system may say that somebody wants no more letters.
alter table unsubscribes drop constraint unsubscribes_way_check;
alter table unsubscribes add constraint unsubscribes_way_check check (way in ('page', 'one-click', 'hand', 'door'));

-- A catalogue that another system tells us item by item belongs to its key.
alter table sources add column door_key text references door_keys (id);
create unique index sources_door_key on sources (door_key) where deleted_at is null;
