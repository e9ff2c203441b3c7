-- Sendings that show a source which cannot be read stop once its copy is so many hours old; null for never.
alter table sources add column stops_after integer;
