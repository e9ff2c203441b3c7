-- Templates are designs as campaigns are, with the same composer, saving and versions.
alter table campaigns add column kind text not null default 'campaign' check (kind in ('campaign', 'template'));
alter table campaigns add column about text not null default '';
alter table campaigns add column purpose text not null default '';
alter table campaigns add column season text not null default '';
-- What a design was made from, and how that was when it was last taken over.
alter table campaigns add column template text;
alter table campaigns add column template_email jsonb;
create index campaigns_kind on campaigns (kind, updated_at desc);
create index campaigns_template on campaigns (template) where template is not null;

-- Themes of the workspace's own. A version never changes, so what was sent or waits to be looks as it did.
create table themes (
  id text not null,
  version integer not null,
  theme jsonb not null,
  created_at timestamptz not null,
  primary key (id, version)
);
-- Put out of sight; designs that use them keep them.
create table removed_themes (
  id text primary key,
  deleted_at timestamptz not null
);

-- Of the bytes a picture was made from, so that the same one is kept once.
alter table pictures add column digest text;
create index pictures_digest on pictures (digest);

-- Parts of designs kept to be used again. Where one is linked, the design names it and holds its content.
create table clippings (
  id text primary key,
  name text not null,
  part text not null check (part in ('section', 'row', 'block')),
  node jsonb not null,
  revision integer not null default 1,
  created_at timestamptz not null,
  updated_at timestamptz not null,
  deleted_at timestamptz
);

-- For finding again: labels, what is put away, and the words, links and pictures of the design in small letters.
alter table campaigns add column labels jsonb not null default '[]';
alter table campaigns add column archived_at timestamptz;
alter table campaigns add column words text;
-- Beside the design, so that a list need not read thousands of them.
alter table campaigns add column subject jsonb;
-- How many got it, written down when a dispatch ends.
alter table dispatches add column accepted integer;

-- Small pictures of designs as most readers get them, made once for each revision.
create table looks (
  campaign_id text primary key references campaigns (id) on delete cascade,
  key text not null,
  html text not null,
  policy text not null
);
