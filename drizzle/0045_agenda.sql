CREATE TABLE "agenda" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"dossier_id" uuid NOT NULL,
	"meeting_id" uuid,
	"starts_at" integer,
	"numbering" text DEFAULT 'figures' NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"filing" text DEFAULT 'no' NOT NULL,
	"filing_tries" integer DEFAULT 0 NOT NULL,
	"filed_by" uuid,
	"changed_at" timestamp with time zone NOT NULL,
	"place_id" uuid,
	"values" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"page_sha256" text,
	"pdf_id" uuid,
	"word_id" uuid,
	CONSTRAINT "agenda_meeting" UNIQUE("meeting_id")
);
--> statement-breakpoint
CREATE TABLE "agenda_item" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agenda_id" uuid NOT NULL,
	"parent_id" uuid,
	"position" integer NOT NULL,
	"title" text collate "natural" NOT NULL,
	"presenter" text DEFAULT '' NOT NULL,
	"minutes" integer,
	"kind" text,
	"notes" text DEFAULT '' NOT NULL,
	"confidential" boolean DEFAULT false NOT NULL,
	"carries_over" boolean DEFAULT false NOT NULL,
	"takes_carried" boolean DEFAULT false NOT NULL,
	"carried_from" date,
	"revision" integer DEFAULT 0 NOT NULL,
	"removed_at" timestamp with time zone,
	CONSTRAINT "agenda_item_minutes" CHECK ("agenda_item"."minutes" > 0)
);
--> statement-breakpoint
CREATE TABLE "agenda_paper" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"item_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"version_id" uuid,
	"position" integer NOT NULL,
	CONSTRAINT "agenda_paper_once" UNIQUE("item_id","document_id")
);
--> statement-breakpoint
CREATE TABLE "agenda_reader" (
	"item_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "agenda_reader_item_id_person_id_pk" PRIMARY KEY("item_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "attendee" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"meeting_id" uuid NOT NULL,
	"person_id" uuid,
	"name" text collate "natural" NOT NULL,
	"part" text NOT NULL,
	"answer" text,
	"position" integer NOT NULL,
	CONSTRAINT "attendee_once" UNIQUE("meeting_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_dossier_id_place_id_fk" FOREIGN KEY ("dossier_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_filed_by_person_id_fk" FOREIGN KEY ("filed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_pdf_id_document_id_fk" FOREIGN KEY ("pdf_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda" ADD CONSTRAINT "agenda_word_id_document_id_fk" FOREIGN KEY ("word_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_item" ADD CONSTRAINT "agenda_item_agenda_id_agenda_id_fk" FOREIGN KEY ("agenda_id") REFERENCES "public"."agenda"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_paper" ADD CONSTRAINT "agenda_paper_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_paper" ADD CONSTRAINT "agenda_paper_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_paper" ADD CONSTRAINT "agenda_paper_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_reader" ADD CONSTRAINT "agenda_reader_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agenda_reader" ADD CONSTRAINT "agenda_reader_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attendee" ADD CONSTRAINT "attendee_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attendee" ADD CONSTRAINT "attendee_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "agenda_standing" ON "agenda" USING btree ("dossier_id") WHERE "agenda"."meeting_id" is null;--> statement-breakpoint
CREATE INDEX "agenda_filing" ON "agenda" USING btree ("id") WHERE "agenda"."filing" = 'waiting';--> statement-breakpoint
CREATE INDEX "agenda_item_agenda" ON "agenda_item" USING btree ("agenda_id","position");--> statement-breakpoint
CREATE INDEX "agenda_paper_document" ON "agenda_paper" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "attendee_person" ON "attendee" USING btree ("person_id");