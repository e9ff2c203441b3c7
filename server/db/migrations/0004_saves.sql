-- What was saved of designs, as steps: a save that met others is rebased over them, and one whose answer got lost is
-- recognised by the id that its window gave it.
create table saves (
  id text primary key,
  campaign_id text not null references campaigns(id) on delete cascade,
  revision integer not null,
  -- Packed steps from this revision back to the one before.
  back jsonb not null,
  clashes jsonb not null default '[]',
  saved_at timestamptz not null,
  unique (campaign_id, revision)
);

-- Windows in which a design is open, to tell each of the others.
create table windows (
  campaign_id text not null references campaigns(id) on delete cascade,
  id text not null,
  seen_at timestamptz not null,
  primary key (campaign_id, id)
);
