-- A picture that is put away is not offered any more, and stays wherever it is used.
alter table pictures add column archived_at timestamptz;
