-- Named values that depend on rules, worked out from the top.
create table lookups (
  key text primary key,
  name text not null,
  kind text not null,
  cases jsonb not null,
  otherwise jsonb not null,
  revision integer not null default 1,
  changed_at timestamptz not null
);

-- Batches of codes, each code handed to one reader.
create table code_batches (
  key text primary key,
  name text not null,
  -- 'campaign': one for each reader of each campaign; 'ever': one for each reader, the same in every campaign
  per text not null check (per in ('campaign', 'ever')),
  -- What looks and proofs show; no code of the batch.
  example text not null,
  -- From so few on somebody is told.
  low integer not null default 0,
  -- The last day a code is worth something, where there is one.
  ends date,
  created_at timestamptz not null,
  removed_at timestamptz
);

create table codes (
  batch text not null references code_batches (key) on delete cascade,
  place integer not null,
  code text not null,
  contact_id integer,
  -- The campaign it was handed out for; '' where it is the reader's for ever.
  campaign_id text,
  dispatch_id text,
  handed_at timestamptz,
  primary key (batch, place),
  unique (batch, code)
);
-- One reader has one code of a batch for each campaign, or for ever.
create unique index codes_once on codes (batch, contact_id, campaign_id) where contact_id is not null;
create index codes_free on codes (batch, place) where contact_id is null;
create index codes_dispatch on codes (dispatch_id) where dispatch_id is not null;

-- What the tags of a dispatch may ask beside its readers, as it was when it was ordered.
alter table dispatches add column named jsonb;
