-- How many readers the sender confirmed, and by how many percent their number may have changed when it begins: null as
-- usual, 100 and more whatever it is. When there were clearly more or fewer, how many there were.
alter table dispatches add column confirmed integer;
update dispatches set confirmed = total;
alter table dispatches add column tolerance integer;
alter table dispatches add column found integer;
