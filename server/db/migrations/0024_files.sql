-- Files that several machines have without a folder that they share: in pieces, as they are read.
create table stored_files (
  name text not null,
  piece integer not null,
  data bytea not null,
  primary key (name, piece)
);
alter table stored_files alter column data set storage external;

-- What was found in a file of contacts, as JSON; as text, since what is in files may have signs that jsonb does not take. Null
-- while it is on its way in.
create table import_files (
  id text primary key,
  facts text,
  come_at timestamptz not null
);

-- An import is asked to end by whichever process hears of it first.
alter table changes add column asked_to_stop boolean not null default false;
