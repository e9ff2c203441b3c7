-- When the readers and the content of a dispatch were looked at; null before. What it shows is frozen with it.
alter table dispatches add column gathered_at timestamptz;
update dispatches set gathered_at = coalesce(started_at, created_at) where content is not null;
alter table dispatches drop column content;
