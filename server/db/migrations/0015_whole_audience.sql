-- Who did something so many times is counted from an index alone, contact by contact, without sorting all events.
drop index events_contact;
create index events_contact on events (contact_id, kind, campaign);

-- Contacts who go are looked for here, each of them, before they do; asking again for each of them when they have gone
-- took longer than all the rest. Of recipients, whoever they name stays for certain.
create index referrals_contact on referrals (contact_id) where contact_id is not null;
create index proofs_contact on proofs (contact_id);
alter table proofs drop constraint proofs_contact_id_fkey;
alter table unsubscribes drop constraint unsubscribes_contact_id_fkey;
