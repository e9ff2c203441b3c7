-- Who brought whom: asked by the reader's own link, counted once they confirmed from their own mailbox.
create table referrals (
  id text primary key,
  referrer integer not null,
  email text not null,
  first_name text,
  -- When the confirmation was last sent.
  asked_at timestamptz not null,
  confirmed_at timestamptz,
  -- The contact that the friend became.
  contact_id integer
);
create unique index referrals_asked on referrals (referrer, lower(email));
-- A friend counts for one reader.
create unique index referrals_once on referrals (lower(email)) where confirmed_at is not null;
create index referrals_email on referrals (lower(email));

-- What readers earned by the friends they brought; sent once, each with what it was when it was earned.
create table rewards (
  contact_id integer not null,
  step text not null,
  words text not null,
  -- The batch a code of goes along, and the code once it was taken.
  batch text,
  code text,
  earned_at timestamptz not null,
  sent_at timestamptz,
  primary key (contact_id, step)
);
create index rewards_waiting on rewards (earned_at) where sent_at is null;
