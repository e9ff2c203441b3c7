-- The ledger of sending. A booking says what is sent, to whom and when; a dispatch is one carrying-out of it, with all
-- that goes into its messages; a recipient is one reader of one dispatch, with what is theirs.
create table bookings (
  id text primary key,
  campaign_id text not null references campaigns,
  readers jsonb not null,
  -- When it goes; null is at once.
  goes_at timestamptz,
  zone text not null,
  -- How many readers the sender saw and confirmed, and by how many percent that may have changed; null as usual.
  confirmed integer not null,
  tolerance integer,
  created_at timestamptz not null
);
insert into bookings (id, campaign_id, readers, goes_at, zone, confirmed, tolerance, created_at)
  select id, campaign_id, readers, scheduled_for, zone, coalesce(confirmed, total), tolerance, created_at from dispatches;

alter table dispatches add column booking_id text references bookings;
update dispatches set booking_id = id;
alter table dispatches alter column booking_id set not null;
alter table dispatches drop column scheduled_for, drop column zone, drop column confirmed, drop column tolerance;
create index dispatches_booking on dispatches (booking_id);

-- What its messages are made of, once its readers are gathered: the program with the live content and the day in it, its
-- editions, and what all its messages share. Null for what was sent before there was a ledger.
alter table dispatches add column frozen jsonb;
-- A program is long and only read by whoever makes messages.
create index dispatches_active on dispatches (state) where state in ('scheduled', 'gathering', 'sending');

alter table recipients
  -- Which of the editions in `frozen`, and what the program writes of the reader, as it was when they were gathered.
  add column edition integer,
  add column facts jsonb,
  -- What mail programs show beside the address; null where nobody gave a name.
  add column name text,
  add column address text,
  -- How often it was taken in hand: each time has a Message-ID of its own.
  add column claim integer not null default 0,
  -- Who has it in hand, and until when nobody else may take it.
  add column worker text,
  add column leased_until timestamptz,
  -- The moment that stands in the message.
  add column handed_at timestamptz,
  -- Each trouble there was: when, and in the words of who refused it.
  add column troubles jsonb;
alter table recipients alter column message_id drop not null;
update recipients set claim = attempts;
update recipients set claim = greatest(claim, 1), leased_until = now() where state = 'handing';
update recipients set troubles = jsonb_build_array(jsonb_build_object('at', changed_at, 'words', trouble)) where trouble is not null;

drop index recipients_open;
create index recipients_pending on recipients (dispatch_id, contact_id) where state = 'pending';
create index recipients_handing on recipients (dispatch_id, leased_until) where state = 'handing';

-- Whoever carries dispatches out or shows one hears of each step, whoever took it.
create function tell_of_dispatch() returns trigger language plpgsql as $$
begin
  perform pg_notify('dispatches', new.id);
  return null;
end $$;
create trigger tell_of_dispatch after insert or update of state on dispatches
  for each row execute function tell_of_dispatch();
