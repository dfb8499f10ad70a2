CREATE TABLE "destroyed_paper" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text collate "natural" NOT NULL,
	"home_name" text NOT NULL,
	"destroyed_at" timestamp with time zone NOT NULL,
	"destroyed_by" uuid
);
--> statement-breakpoint
ALTER TABLE "document_label" DROP CONSTRAINT "document_label_document_id_document_id_fk";
--> statement-breakpoint
ALTER TABLE "page_picture" DROP CONSTRAINT "page_picture_sha256_blob_sha256_fk";
--> statement-breakpoint
ALTER TABLE "value_change" DROP CONSTRAINT "value_change_document_id_document_id_fk";
--> statement-breakpoint
ALTER TABLE "version" DROP CONSTRAINT "version_document_id_document_id_fk";
--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "tray_days" integer;--> statement-breakpoint
ALTER TABLE "destroyed_paper" ADD CONSTRAINT "destroyed_paper_destroyed_by_person_id_fk" FOREIGN KEY ("destroyed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_label" ADD CONSTRAINT "document_label_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_picture" ADD CONSTRAINT "page_picture_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;