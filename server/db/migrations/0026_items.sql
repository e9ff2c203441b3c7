-- What a source holds, one row for each thing.
create table items (
  source text not null references sources (id) on delete cascade,
  -- What its source tells it by.
  id text not null,
  -- Its place in the order in which the source gave it.
  place integer not null,
  item jsonb not null,
  -- Of its picture, in px, where it was looked at.
  size jsonb,
  -- What it is found by.
  words tsvector not null,
  -- What lists are put in order and narrowed by; the same as in the item.
  title text not null,
  at text,
  costs double precision,
  saving double precision not null default 0,
  stock integer,
  category text[] not null,
  seen_first timestamptz not null,
  -- When its source was first read without it, where that is so.
  gone_at timestamptz,
  primary key (source, id)
);
create index items_words on items using gin (words) where gone_at is null;
create index items_newest on items (source, at desc nulls last, place) where gone_at is null;
create index items_given on items (source, place) where gone_at is null;

-- What was seen to change of an item: 'new', 'gone', 'back', 'price' or 'stock', with what it was and is.
create table item_changes (
  source text not null references sources (id) on delete cascade,
  item text not null,
  at timestamptz not null,
  what text not null check (what in ('new', 'gone', 'back', 'price', 'stock')),
  was jsonb,
  is_now jsonb
);
create index item_changes_item on item_changes (source, item, at);
create index item_changes_at on item_changes (source, at desc);

-- Items on their way in, of a reading that is under way.
create unlogged table items_read (
  reading text not null,
  place integer not null,
  id text not null,
  item jsonb not null,
  words text not null
);
create index items_read_id on items_read (reading);

alter table sources
  drop constraint sources_kind_check,
  add constraint sources_kind_check check (kind in ('feed', 'catalogue', 'calendar', 'records')),
  -- How its document is written; what its columns are, and what they mean.
  add column format text not null default 'feed',
  add column columns jsonb not null default '[]',
  add column mapping jsonb,
  -- A file that was given by hand is called so, and kept under a name.
  add column file_name text,
  add column file text,
  -- Read again after so many minutes; null for never.
  add column every integer default 10,
  -- What its server said of the copy at hand (RFC 9110, 8.8).
  add column etag text,
  add column modified text,
  -- When its items were last seen to change, and how many of each.
  add column changed_at timestamptz,
  add column changes jsonb,
  add column held integer not null default 0;

-- An article as it was kept, as an item.
create function pg_temp.item_of(article jsonb) returns jsonb language sql as $$
  select jsonb_strip_nulls(jsonb_build_object('size', article -> 'size')) || jsonb_build_object(
    'id', article -> 'id', 'title', article -> 'title', 'text', article -> 'excerpt', 'link', article -> 'link',
    'picture', article -> 'picture', 'date', article -> 'published',
    'category', coalesce(jsonb_path_query_array(article, '$.categories[0]'), '[]'),
    'tags', coalesce(article -> 'categories', '[]') - 0, 'facts', '{}'::jsonb)
$$;

insert into items (source, id, place, item, size, words, title, at, category, seen_first)
select s.id, a ->> 'id', n, pg_temp.item_of(a) - 'size', a -> 'size',
       to_tsvector('simple', lower(concat_ws(' ', a ->> 'title', a ->> 'excerpt'))), a ->> 'title', a ->> 'published',
       coalesce(array(select jsonb_array_elements_text(jsonb_path_query_array(a, '$.categories[0]'))), '{}'), s.created_at
from sources s, jsonb_array_elements(s.articles) with ordinality as it (a, n)
on conflict do nothing;
update sources s set held = (select count(*) from items i where i.source = s.id);
alter table sources drop column articles;

update dispatches set content = (
  select coalesce(jsonb_object_agg(source, (
    select coalesce(jsonb_agg(pg_temp.item_of(a) order by n), '[]')
    from jsonb_array_elements(articles) with ordinality as it (a, n))), '{}')
  from jsonb_each(content) as each (source, articles))
where content is not null;
drop function pg_temp.item_of(jsonb);
