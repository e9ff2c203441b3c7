-- Findings that were set aside, with why. One counts as long as what stands at its place is what it was.
create table findings_aside (
  campaign_id text not null references campaigns(id) on delete cascade,
  finding text not null,
  state text not null,
  reason text not null,
  at timestamptz not null,
  primary key (campaign_id, finding)
);
