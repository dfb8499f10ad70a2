-- Everything that views are made of leaves a trace of its change, in the transaction of the change, and wakes who listens.
create function note_papers() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id) select 'paper', id from changed;
  perform pg_notify('embrin_changed', '');
  return null;
end
$$;
--> statement-breakpoint
-- Who loses sight of a paper by its move has to be told too: the place it left is noted beside it.
create function note_changed_papers() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id) select 'paper', id from changed;
  insert into tally_change (subject, subject_id)
    select distinct 'place', former.home_id from former join changed using (id) where former.home_id <> changed.home_id;
  perform pg_notify('embrin_changed', '');
  return null;
end
$$;
--> statement-breakpoint
create function note_places() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id) select 'place', id from changed;
  perform pg_notify('embrin_changed', '');
  return null;
end
$$;
--> statement-breakpoint
create function note_labelled() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id) select distinct 'paper', document_id from changed;
  perform pg_notify('embrin_changed', '');
  return null;
end
$$;
--> statement-breakpoint
create function note_world() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject) values ('world');
  perform pg_notify('embrin_changed', '');
  return null;
end
$$;
--> statement-breakpoint
create function note_access() returns trigger language plpgsql as $$
begin
  perform pg_notify('embrin_changed', 'access');
  return null;
end
$$;
--> statement-breakpoint
create trigger document_came after insert on document
  referencing new table as changed for each statement execute function note_papers();
--> statement-breakpoint
create trigger document_changed after update on document
  referencing old table as former new table as changed for each statement execute function note_changed_papers();
--> statement-breakpoint
create trigger document_went after delete on document
  referencing old table as changed for each statement execute function note_papers();
--> statement-breakpoint
create trigger labelled after insert on document_label
  referencing new table as changed for each statement execute function note_labelled();
--> statement-breakpoint
create trigger unlabelled after delete on document_label
  referencing old table as changed for each statement execute function note_labelled();
--> statement-breakpoint
create trigger place_came after insert on place
  referencing new table as changed for each statement execute function note_places();
--> statement-breakpoint
create trigger place_changed after update on place
  referencing new table as changed for each statement execute function note_places();
--> statement-breakpoint
create trigger place_went after delete on place
  referencing old table as changed for each statement execute function note_places();
--> statement-breakpoint
create trigger person_changed after insert or update of name on person for each statement execute function note_world();
--> statement-breakpoint
create trigger term_changed after insert or update or delete on term for each statement execute function note_world();
--> statement-breakpoint
create trigger label_changed after insert or update or delete on label for each statement execute function note_world();
--> statement-breakpoint
create trigger column_changed after insert or update or delete on column_def for each statement execute function note_world();
--> statement-breakpoint
create trigger library_changed after update on library for each statement execute function note_world();
--> statement-breakpoint
create trigger access_changed after insert or update or delete on scope_entry for each statement execute function note_access();
--> statement-breakpoint
create trigger view_changed after insert or update or delete on view for each statement execute function note_access();
