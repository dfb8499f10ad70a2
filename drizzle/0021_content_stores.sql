ALTER TABLE "blob" ADD COLUMN "store" text DEFAULT 'rows' NOT NULL;--> statement-breakpoint
ALTER TABLE "blob" ADD COLUMN "piece_sums" integer[];--> statement-breakpoint
ALTER TABLE "blob" ADD COLUMN "damaged_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "content_store" text DEFAULT 'rows' NOT NULL;--> statement-breakpoint
ALTER TABLE "upload" ADD COLUMN "piece_sums" integer[];--> statement-breakpoint
ALTER TABLE "upload" ADD COLUMN "store" text DEFAULT 'rows' NOT NULL;--> statement-breakpoint
-- What content is never changes; where it is kept may, and that it was found damaged.
drop trigger blob_never_changes on blob;
--> statement-breakpoint
create trigger blob_never_changes before update on blob
  for each row
  when (
    (old.sha256, old.content_id, old.size_bytes) is distinct from (new.sha256, new.content_id, new.size_bytes)
    or (old.piece_sums is not null and old.piece_sums is distinct from new.piece_sums)
  )
  execute function refuse_change();
--> statement-breakpoint
-- Checksums are small and hard to compress.
alter table blob alter column piece_sums set storage external;
