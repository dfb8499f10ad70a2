ALTER TABLE "value_change" DROP CONSTRAINT "value_change_entry_id_journal_id_fk";
--> statement-breakpoint
ALTER TABLE "value_change" DROP CONSTRAINT "value_change_entry_id_document_id_column_id_pk";--> statement-breakpoint
ALTER TABLE "value_change" ALTER COLUMN "batch_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_batch_id_document_id_column_id_pk" PRIMARY KEY("batch_id","document_id","column_id");--> statement-breakpoint
ALTER TABLE "value_change" DROP COLUMN "entry_id";