CREATE TABLE "expected_say" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"expectation_id" uuid NOT NULL,
	"dossier_id" uuid NOT NULL,
	"start_year" integer,
	"meeting_id" uuid,
	"document_id" uuid,
	"reason" text DEFAULT '' NOT NULL,
	"said_by" uuid NOT NULL,
	"said_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "expected_say_once" UNIQUE NULLS NOT DISTINCT("expectation_id","dossier_id","start_year","meeting_id")
);
--> statement-breakpoint
ALTER TABLE "filing_plan" ADD COLUMN "expected" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "filing_plan" ADD COLUMN "fields" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "details" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "expected_say" ADD CONSTRAINT "expected_say_dossier_id_place_id_fk" FOREIGN KEY ("dossier_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "expected_say" ADD CONSTRAINT "expected_say_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "expected_say" ADD CONSTRAINT "expected_say_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "expected_say" ADD CONSTRAINT "expected_say_said_by_person_id_fk" FOREIGN KEY ("said_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "expected_say_dossier" ON "expected_say" USING btree ("dossier_id");