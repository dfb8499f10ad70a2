CREATE TABLE "pack_lead" (
	"issue_id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "page_note" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"person_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"text" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "pack_lead" ADD CONSTRAINT "pack_lead_issue_id_pack_issue_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."pack_issue"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_lead" ADD CONSTRAINT "pack_lead_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_note" ADD CONSTRAINT "page_note_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_note" ADD CONSTRAINT "page_note_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "page_note_person" ON "page_note" USING btree ("person_id","version_id");