CREATE TABLE "pack" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	"meeting_id" uuid,
	"name" text collate "natural" NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"prepared_by" text DEFAULT '' NOT NULL,
	"for_whom" text DEFAULT '' NOT NULL,
	"day" date,
	"stamp_place" text DEFAULT 'bottomRight' NOT NULL,
	"sheets" boolean DEFAULT true NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"made_by" uuid NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "pack_copy" (
	"issue_id" uuid NOT NULL,
	"left_out_key" text NOT NULL,
	"left_out" uuid[] NOT NULL,
	"sha256" text,
	"pages" integer,
	"attempts" integer DEFAULT 0 NOT NULL,
	"beat_at" timestamp with time zone,
	"asked_at" timestamp with time zone NOT NULL,
	CONSTRAINT "pack_copy_issue_id_left_out_key_pk" PRIMARY KEY("issue_id","left_out_key")
);
--> statement-breakpoint
CREATE TABLE "pack_entry" (
	"id" uuid PRIMARY KEY NOT NULL,
	"pack_id" uuid NOT NULL,
	"parent_id" uuid,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"title" text collate "natural" NOT NULL,
	"document_id" uuid,
	"version_id" uuid,
	"pages" text DEFAULT '' NOT NULL,
	"confidential" boolean DEFAULT false NOT NULL,
	"item_id" uuid,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "pack_issue" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"pack_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"called" text NOT NULL,
	"supplement_to" uuid,
	"state" text DEFAULT 'waiting' NOT NULL,
	"fault" text,
	"fault_words" text DEFAULT '' NOT NULL,
	"record" jsonb NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"beat_at" timestamp with time zone,
	"begun_at" timestamp with time zone,
	"done" integer DEFAULT 0 NOT NULL,
	"pages" integer,
	"issued_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"issued_at" timestamp with time zone,
	"end_reason" text DEFAULT '' NOT NULL,
	"sha256" text,
	CONSTRAINT "pack_issue_number" UNIQUE("pack_id","number")
);
--> statement-breakpoint
CREATE TABLE "pack_reader" (
	"entry_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "pack_reader_entry_id_person_id_pk" PRIMARY KEY("entry_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "pack" ADD CONSTRAINT "pack_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack" ADD CONSTRAINT "pack_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack" ADD CONSTRAINT "pack_made_by_person_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_copy" ADD CONSTRAINT "pack_copy_issue_id_pack_issue_id_fk" FOREIGN KEY ("issue_id") REFERENCES "public"."pack_issue"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_copy" ADD CONSTRAINT "pack_copy_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_entry" ADD CONSTRAINT "pack_entry_pack_id_pack_id_fk" FOREIGN KEY ("pack_id") REFERENCES "public"."pack"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_entry" ADD CONSTRAINT "pack_entry_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_entry" ADD CONSTRAINT "pack_entry_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_entry" ADD CONSTRAINT "pack_entry_item_id_agenda_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."agenda_item"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD CONSTRAINT "pack_issue_pack_id_pack_id_fk" FOREIGN KEY ("pack_id") REFERENCES "public"."pack"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD CONSTRAINT "pack_issue_supplement_to_pack_issue_id_fk" FOREIGN KEY ("supplement_to") REFERENCES "public"."pack_issue"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD CONSTRAINT "pack_issue_issued_by_person_id_fk" FOREIGN KEY ("issued_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_issue" ADD CONSTRAINT "pack_issue_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_reader" ADD CONSTRAINT "pack_reader_entry_id_pack_entry_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."pack_entry"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack_reader" ADD CONSTRAINT "pack_reader_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "pack_place" ON "pack" USING btree ("place_id");--> statement-breakpoint
CREATE INDEX "pack_meeting" ON "pack" USING btree ("meeting_id");--> statement-breakpoint
CREATE INDEX "pack_copy_content" ON "pack_copy" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "pack_copy_waiting" ON "pack_copy" USING btree ("asked_at") WHERE "pack_copy"."sha256" is null;--> statement-breakpoint
CREATE INDEX "pack_entry_pack" ON "pack_entry" USING btree ("pack_id","position");--> statement-breakpoint
CREATE INDEX "pack_entry_document" ON "pack_entry" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "pack_issue_content" ON "pack_issue" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "pack_issue_open" ON "pack_issue" USING btree ("asked_at") WHERE "pack_issue"."state" in ('waiting', 'making');