-- Groups of addresses that proofs go to, by what they are called.
create table proof_groups (
  name text primary key,
  addresses jsonb not null
);
-- Which edition a proof showed, as it said; empty for proofs before this.
alter table proofs add column edition text not null default '';
