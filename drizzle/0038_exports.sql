CREATE TABLE "export_job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"name" text NOT NULL,
	"what" jsonb NOT NULL,
	"folders" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"fault" text,
	"asked_at" timestamp with time zone NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"begun_at" timestamp with time zone,
	"beat_at" timestamp with time zone,
	"document_ids" uuid[],
	"left_out" integer,
	"bytes" bigint DEFAULT 0 NOT NULL,
	"of_bytes" bigint,
	"expires_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "export_days" integer DEFAULT 7 NOT NULL;--> statement-breakpoint
ALTER TABLE "export_job" ADD CONSTRAINT "export_job_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "export_job_person" ON "export_job" USING btree ("person_id","asked_at");--> statement-breakpoint
CREATE INDEX "export_job_state" ON "export_job" USING btree ("state");