-- Keys that sign messages for a domain. Which of them sign changes in turns: each message says as of which turn it was
-- signed, so that it can be made again octet for octet whatever was exchanged since.
create table key_turns (
  number integer primary key,
  at timestamptz not null
);

create table signing_keys (
  id text primary key,
  domain text not null,
  selector text not null,
  algorithm text not null check (algorithm in ('rsa-sha256', 'ed25519-sha256')),
  -- As the DNS publishes it: base64.
  public text not null,
  -- Sealed; the key to it is not in this database.
  private text not null,
  made_at timestamptz not null,
  -- From which turn on it signs, and from which not any more.
  signs_from integer references key_turns,
  signs_until integer references key_turns,
  -- What the DNS said when it was asked: when, and what was found.
  seen jsonb,
  unique (domain, selector)
);
create unique index signing_keys_one on signing_keys (domain, algorithm)
  where signs_from is not null and signs_until is null;

-- As of which turn a message was signed.
alter table recipients add column turn integer;

-- What was sent so far went out as the relay signed it, or as nobody did: of the domains there are it is said that the
-- relay does, until keys of our own are made.
insert into settings (key, value)
  select 'relay signs', jsonb_agg(distinct lower(split_part(sender ->> 'address', '@', 2)))
  from settings s cross join lateral jsonb_array_elements(s.value -> 'senders') sender
  where s.key = 'brand' and jsonb_typeof(s.value -> 'senders') = 'array' and exists (select 1 from bookings)
  having count(*) > 0
on conflict (key) do nothing;
