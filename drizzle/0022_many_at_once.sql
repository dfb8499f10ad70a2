ALTER TABLE "upload" ADD COLUMN "kind" jsonb;--> statement-breakpoint
-- A paper and its first version name each other: both are inserted at once, and held to it when the transaction ends.
alter table document alter constraint document_version_id_version_id_fk deferrable initially deferred;
