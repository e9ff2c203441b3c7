-- Files of the brand's own fonts (WOFF 2), by the name they are fetched under.
create table fonts (
  file text primary key,
  data bytea not null,
  created_at timestamptz not null
);
