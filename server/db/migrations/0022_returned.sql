-- What came back: notifications of failed delivery, complaints, answers. Kept as it came, for as long as somebody may want to
-- look; what it was about is only said where it was proven.
create table returned (
  -- Of its octets and whom it came for: what comes twice is there once.
  id text primary key,
  at timestamptz not null,
  via text not null check (via in ('postroom', 'folder', 'door')),
  sent_to text not null,
  kind text not null check (kind in ('bounce', 'delay', 'delivered', 'complaint', 'automatic', 'reply')),
  sender text not null,
  subject text not null,
  -- By what it was proven whom it is about; null where it was not.
  proof text check (proof in ('token', 'message')),
  contact_id integer references contacts on delete cascade,
  dispatch_id text references dispatches on delete set null,
  -- How bad it is, of a failed delivery.
  severity text check (severity in ('gone', 'soft')),
  -- In the words of the other side.
  words text not null,
  -- What came of it.
  effect text not null check (effect in ('suppressed', 'counted', 'shown')),
  source bytea not null
);
create index returned_at on returned (at desc, id);
create index returned_soft on returned (contact_id, at) where severity = 'soft';

-- Why somebody is not written to any more, in which words, and until when.
create table suppressions (
  id integer primary key generated always as identity,
  contact_id integer not null references contacts on delete cascade,
  at timestamptz not null,
  kind text not null check (kind in ('gone', 'soft', 'complaint')),
  words text not null,
  returned_id text references returned on delete set null,
  lifted_at timestamptz,
  lifted_way text
);
create index suppressions_contact on suppressions (contact_id, at desc);
