-- Designs as they were: kept by themselves while somebody works, or under a name.
create table versions (
  id text primary key,
  campaign_id text not null references campaigns(id) on delete cascade,
  name text,
  email jsonb not null,
  revision integer not null,
  kept_at timestamptz not null
);
create index versions_campaign on versions (campaign_id, kept_at desc);
