-- For finding clippings again.
alter table clippings add column labels jsonb not null default '[]';

-- Files of the brand's own fonts (WOFF 2), by the name they are fetched under.
create table fonts (
  file text primary key,
  data bytea not null,
  created_at timestamptz not null
);
