-- Whatever other processes keep in memory is told of its changes, whoever made them and however; within a transaction once
-- it is committed, and once. Argument: what the change is about.
create function tell_of_changes() returns trigger language plpgsql as $$
begin
  perform pg_notify('changes', tg_argv[0]);
  return null;
end $$;

do $$
declare
  one record;
begin
  for one in select * from (values
    ('contacts', 'audience'), ('lists', 'audience'), ('list_members', 'audience'), ('segments', 'audience'),
    ('record_tables', 'audience'), ('records', 'audience'),
    ('events', 'behaviour'), ('orders', 'behaviour'), ('order_lines', 'behaviour'),
    ('settings', 'settings'), ('themes', 'themes'), ('removed_themes', 'themes'),
    ('lookups', 'lookups'), ('code_batches', 'codes')) as told(name, about)
  loop
    execute format('create trigger tell_of_changes after insert or update or delete or truncate on %I
      for each statement execute function tell_of_changes(%L)', one.name, one.about);
  end loop;
end $$;
