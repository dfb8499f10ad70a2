CREATE TABLE "paper_call" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"item_id" uuid NOT NULL,
	"what" text collate "natural" NOT NULL,
	"person_id" uuid,
	"who" text collate "natural" DEFAULT '' NOT NULL,
	"due_on" date,
	"document_id" uuid,
	"attached" boolean DEFAULT false NOT NULL,
	"called_at" timestamp with time zone NOT NULL,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "paper_call_item" ON "paper_call" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "paper_call_person" ON "paper_call" USING btree ("person_id");