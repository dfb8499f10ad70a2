-- A text that comes into the index, or goes, changes what finds its papers.
create function note_texts() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id)
    select 'paper', version.document_id from changed join version using (sha256)
    union
    select 'paper', version.document_id from changed
      join attachment on attachment.sha256 = changed.sha256
      join version on version.sha256 = attachment.mail_sha256;
  if found then perform pg_notify('embrin_changed', ''); end if;
  return null;
end
$$;
--> statement-breakpoint
-- What was taken out of a mail may have been indexed before.
create function note_attached() returns trigger language plpgsql as $$
begin
  insert into tally_change (subject, subject_id)
    select distinct 'paper', version.document_id from changed join version on version.sha256 = changed.mail_sha256;
  if found then perform pg_notify('embrin_changed', ''); end if;
  return null;
end
$$;
--> statement-breakpoint
create trigger text_came after insert on search_text
  referencing new table as changed for each statement execute function note_texts();
--> statement-breakpoint
create trigger text_went after delete on search_text
  referencing old table as changed for each statement execute function note_texts();
--> statement-breakpoint
create trigger attachment_came after insert on attachment
  referencing new table as changed for each statement execute function note_attached();
