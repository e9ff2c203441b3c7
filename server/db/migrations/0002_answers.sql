-- Answers to the surveys in campaigns: the last one of each reader counts.
create table answers (
  campaign_id text not null references campaigns(id) on delete cascade,
  block_id text not null,
  contact_id integer not null,
  answer integer not null,
  answered_at timestamptz not null,
  primary key (campaign_id, block_id, contact_id)
);
