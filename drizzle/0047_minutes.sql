CREATE TABLE "item_outcome" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"item_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"text" text collate "natural" NOT NULL,
	"person_id" uuid,
	"who" text collate "natural" DEFAULT '' NOT NULL,
	"due_on" date,
	"done_at" timestamp with time zone,
	"done_by" uuid,
	"done_remark" text DEFAULT '' NOT NULL,
	"written" text,
	"position" integer NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"recorded_at" timestamp with time zone NOT NULL,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "minutes" (
	"meeting_id" uuid PRIMARY KEY NOT NULL,
	"document_id" uuid NOT NULL,
	"agreed_at" uuid,
	"agreed_version_id" uuid
);
--> statement-breakpoint
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
ALTER TABLE "attendee" ADD COLUMN "presence" text;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD COLUMN "told_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD COLUMN "told" integer;--> statement-breakpoint
ALTER TABLE "item_outcome" ADD CONSTRAINT "item_outcome_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_outcome" ADD CONSTRAINT "item_outcome_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_outcome" ADD CONSTRAINT "item_outcome_done_by_person_id_fk" FOREIGN KEY ("done_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "minutes" ADD CONSTRAINT "minutes_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "minutes" ADD CONSTRAINT "minutes_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "minutes" ADD CONSTRAINT "minutes_agreed_at_meeting_id_fk" FOREIGN KEY ("agreed_at") REFERENCES "public"."meeting"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "minutes" ADD CONSTRAINT "minutes_agreed_version_id_version_id_fk" FOREIGN KEY ("agreed_version_id") REFERENCES "public"."version"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_lead" ADD CONSTRAINT "pack_lead_issue_id_pack_issue_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."pack_issue"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_lead" ADD CONSTRAINT "pack_lead_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_note" ADD CONSTRAINT "page_note_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page_note" ADD CONSTRAINT "page_note_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_call" ADD CONSTRAINT "paper_call_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "item_outcome_item" ON "item_outcome" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "item_outcome_person" ON "item_outcome" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "page_note_person" ON "page_note" USING btree ("person_id","version_id");--> statement-breakpoint
CREATE INDEX "paper_call_item" ON "paper_call" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "paper_call_person" ON "paper_call" USING btree ("person_id");