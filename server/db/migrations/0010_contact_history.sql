-- What one contact got: asked for by the contact's page.
create index recipients_contact on recipients (contact_id);
create index unsubscribes_contact on unsubscribes (contact_id);
create index answers_contact on answers (contact_id);
