-- References to a table that is declared after the one that refers to it.
alter table access_grant add constraint access_grant_document_id_document_id_fk
  foreign key (document_id) references document (id) on delete cascade;
--> statement-breakpoint
alter table scope add constraint scope_document_id_document_id_fk
  foreign key (document_id) references document (id) on delete cascade;
--> statement-breakpoint
-- Who was in a group so far is in it without an end.
insert into group_term (group_id, person_id) select group_id, person_id from membership;
--> statement-breakpoint
-- A paper that is filed elsewhere too stands in views of that place, and may be open to its readers.
create function note_filed() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id) select distinct 'paper', document_id from changed;
  insert into tally_change (subject, subject_id) select distinct 'place', place_id from changed;
  perform pg_notify('embrin_changed', 'access');
  return null;
end
$$;
--> statement-breakpoint
create trigger filed after insert on filing
  referencing new table as changed for each statement execute function note_filed();
--> statement-breakpoint
create trigger refiled after update on filing
  referencing new table as changed for each statement execute function note_filed();
--> statement-breakpoint
create trigger unfiled after delete on filing
  referencing old table as changed for each statement execute function note_filed();
--> statement-breakpoint
-- Which group someone is in decides which views they have.
create trigger membership_changed after insert or update or delete on membership
  for each statement execute function note_access();
