-- When the readers and the content of a dispatch were looked at; null before. What it shows is frozen with it.
alter table dispatches add column gathered_at timestamptz;
update dispatches set gathered_at = coalesce(started_at, created_at) where content is not null;
alter table dispatches drop column content;

-- What sources had then, by the source: when the newest of its items was first seen. What is new since is what came later.
alter table dispatches add column marks jsonb;

-- A booking that repeats, on dates that follow a rhythm; each of them is carried out by a dispatch, or skipped.
alter table bookings
  add column rhythm jsonb,
  -- It goes only where so many items are new since the last one; null whatever there is.
  add column least integer,
  -- Who is told when it went, or did not.
  add column tells text[] not null default '{}',
  -- The design it sends, as it was taken over from the campaign at this revision.
  add column email jsonb,
  add column revision integer,
  add column next_at timestamptz,
  add column ended_at timestamptz;
create index bookings_next on bookings (next_at) where ended_at is null and next_at is not null;

-- Dates of a booking that repeats: those that are over, and those to come that differ from the others.
create table occurrences (
  booking_id text not null references bookings on delete cascade,
  at timestamptz not null,
  -- Left out by hand.
  skip boolean not null default false,
  -- The design of this date alone.
  email jsonb,
  -- What came of it, and why it did not go; null as long as it is to come.
  outcome text check (outcome in ('sent', 'skipped')),
  why text,
  dispatch_id text references dispatches on delete cascade,
  -- Of which state somebody was told last.
  told text,
  primary key (booking_id, at)
);
create unique index occurrences_dispatch on occurrences (dispatch_id);
