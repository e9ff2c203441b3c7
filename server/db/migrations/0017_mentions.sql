-- What refers to what: a design, its readers, a version, a clipping, a lookup, a segment, a setting or a dispatch (the
-- holder, and which of them) mentions something by its key. What was there before is filled in by the program.
create table mentions (
  holder text not null
    check (holder in ('design', 'readers', 'version', 'clipping', 'lookup', 'segment', 'setting', 'dispatch')),
  which text not null,
  kind text not null,
  key text not null,
  primary key (holder, which, kind, key)
);
create index mentions_of on mentions (kind, key);

-- What is gone for good mentions nothing. Arguments: the column of the key, and the holders it may be.
create function forget_mentions() returns trigger language plpgsql as $$
begin
  delete from mentions where holder = any (tg_argv[1:tg_nargs - 1]) and which = to_jsonb(old) ->> tg_argv[0];
  return null;
end $$;
create trigger forget_mentions after delete on campaigns
  for each row execute function forget_mentions('id', 'design', 'readers');
create trigger forget_mentions after delete on versions
  for each row execute function forget_mentions('id', 'version');
create trigger forget_mentions after delete on clippings
  for each row execute function forget_mentions('id', 'clipping');
create trigger forget_mentions after delete on lookups
  for each row execute function forget_mentions('key', 'lookup');
create trigger forget_mentions after delete on segments
  for each row execute function forget_mentions('id', 'segment');
create trigger forget_mentions after delete on dispatches
  for each row execute function forget_mentions('id', 'dispatch');

alter table campaigns drop column pictures;
