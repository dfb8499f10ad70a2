CREATE TABLE "paper_origin" (
	"document_id" uuid PRIMARY KEY NOT NULL,
	"original_id" uuid,
	"version_id" uuid,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "paper_origin" ADD CONSTRAINT "paper_origin_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_origin" ADD CONSTRAINT "paper_origin_original_id_document_id_fk" FOREIGN KEY ("original_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_origin" ADD CONSTRAINT "paper_origin_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "paper_origin_original" ON "paper_origin" USING btree ("original_id");