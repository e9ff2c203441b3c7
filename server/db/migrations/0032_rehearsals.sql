-- Rehearsals: every message of a campaign made and looked at, none of them sent; the last one of each campaign.
create table rehearsals (
  campaign_id text primary key references campaigns (id) on delete cascade,
  -- The dispatch that it rehearses takes this as its own.
  id text not null,
  state text not null check (state in ('running', 'done', 'stopped')),
  -- Of which design and which readers.
  revision integer not null,
  readers jsonb not null,
  made integer not null default 0,
  total integer,
  started_at timestamptz not null,
  -- When it was last heard of: a process may end in the middle.
  heard_at timestamptz not null,
  finished_at timestamptz,
  trouble text,
  frozen jsonb,
  came jsonb
);
-- The readers whose messages are shown of it, with all that goes into them.
create table rehearsed (
  campaign_id text not null references rehearsals (campaign_id) on delete cascade,
  contact_id integer not null,
  addressed jsonb not null,
  codes jsonb not null,
  primary key (campaign_id, contact_id)
);
create index rehearsed_contact on rehearsed (contact_id);
-- Who is deleted is forgotten here, too.
create function forget_rehearsed() returns trigger language plpgsql as $$
begin
  delete from rehearsed r using gone where r.contact_id = gone.id;
  return null;
end $$;
create trigger forget_rehearsed after delete on contacts
  referencing old table as gone for each statement execute function forget_rehearsed();
