-- What was removed can be brought back, so it is only put out of sight.
alter table sources add column deleted_at timestamptz;
alter table segments add column deleted_at timestamptz;
alter table pictures add column deleted_at timestamptz;
