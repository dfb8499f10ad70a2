-- What must never change cannot be changed, whatever the program does.
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'rows of % are never changed or removed', tg_table_name using errcode = 'integrity_constraint_violation';
end
$$;
--> statement-breakpoint
create trigger journal_is_append_only before update or delete on journal
  for each row execute function refuse_change();
--> statement-breakpoint
create trigger journal_is_not_emptied before truncate on journal
  for each statement execute function refuse_change();
--> statement-breakpoint
create trigger version_never_changes before update on version
  for each row execute function refuse_change();
--> statement-breakpoint
create trigger blob_never_changes before update on blob
  for each row execute function refuse_change();
--> statement-breakpoint
create trigger blob_chunk_never_changes before update on blob_chunk
  for each row execute function refuse_change();
--> statement-breakpoint
-- Content is compressed already, or soon sent again: PostgreSQL need not try.
alter table blob_chunk alter column data set storage external;
--> statement-breakpoint
alter table preview alter column picture set storage external;
