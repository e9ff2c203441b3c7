-- What pictures were made from, as it came; one for each content, however often it is taken in.
create table originals (
  digest text primary key,
  -- The name of the file that holds it, in the folder of originals.
  file text not null,
  kind text not null check (kind in ('jpeg', 'png', 'gif', 'webp', 'avif', 'svg')),
  -- Upright, in px.
  width integer not null,
  height integer not null,
  frames integer not null default 1,
  bytes integer not null,
  created_at timestamptz not null
);

-- A picture of the library is an original, or what steps make of one. Pictures from before have no original: their
-- file stands in for it.
alter table pictures add column original text references originals (digest);
alter table pictures add column steps jsonb not null default '[]';
-- The file that shows it now.
alter table pictures add column file text;
update pictures set file = id;
alter table pictures alter column file set not null;
alter table pictures add column folder text not null default '';
alter table pictures add column labels jsonb not null default '[]';
alter table pictures add column used_at timestamptz;
-- Whether it was made from another one, so that the same file taken in again is not taken for it.
alter table pictures add column copied boolean not null default false;
create index pictures_original on pictures (original);
create index pictures_newest on pictures (created_at desc, id) where deleted_at is null;

-- Files never change and never go: what was sent shows them. Each says by which steps it was made.
create table picture_files (
  file text primary key,
  picture text not null references pictures (id),
  steps jsonb not null default '[]',
  type text not null,
  width integer not null,
  height integer not null,
  bytes integer not null,
  created_at timestamptz not null
);
create index picture_files_picture on picture_files (picture, created_at desc);
insert into picture_files (file, picture, type, width, height, bytes, created_at)
  select id, id, type, width, height, bytes, created_at from pictures;

-- The files of the library that a design names, for finding by what uses a picture; read anew with the words.
alter table campaigns add column pictures text[] not null default '{}';
create index campaigns_pictures on campaigns using gin (pictures);
update campaigns set words = null;
