-- Who did something so many times is counted from an index alone, contact by contact, without sorting all events.
drop index events_contact;
create index events_contact on events (contact_id, kind, campaign);
