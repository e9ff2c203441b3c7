-- Who is asked to look a campaign over, by a link of their own, and what they said of it last.
create table reviews (
  id text primary key,
  campaign_id text not null references campaigns (id) on delete cascade,
  reviewer text not null,
  -- Where the link was sent; it may also be handed over in another way.
  address text,
  note text not null,
  asked_at timestamptz not null,
  expires_at timestamptz not null,
  withdrawn_at timestamptz,
  opened_at timestamptz,
  verdict text check (verdict in ('approved', 'changes')),
  said text not null default '',
  said_at timestamptz,
  -- The design that was spoken of last: by it one tells what has changed since.
  design jsonb
);
create index reviews_campaign on reviews (campaign_id);
-- What reviewers and colleagues say of a design. What answers nothing begins a talk.
create table comments (
  id text primary key,
  campaign_id text not null references campaigns (id) on delete cascade,
  answers text references comments (id) on delete cascade,
  -- The review by whose link it was written; none for a colleague in the interface.
  review_id text references reviews (id) on delete set null,
  author text not null,
  words text not null,
  at timestamptz not null,
  -- Of which block, and of which words in it; of the email as a whole where there is none.
  block text,
  quote jsonb,
  -- Whose message was looked at: nothing hangs on whether they are still there.
  reader integer,
  resolved_at timestamptz,
  resolved_by text
);
create index comments_campaign on comments (campaign_id, at);
