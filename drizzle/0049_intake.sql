CREATE TABLE "arrival" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"way" text NOT NULL,
	"arrived_at" timestamp with time zone NOT NULL,
	"sha256" text NOT NULL,
	"file_name" text NOT NULL,
	"media_type" text NOT NULL,
	"envelope_from" text NOT NULL,
	"sent_to" text[] NOT NULL,
	"state" text DEFAULT 'unread' NOT NULL,
	"same_key" text,
	"sender_address" text DEFAULT '' NOT NULL,
	"sender_name" text DEFAULT '' NOT NULL,
	"subject" text DEFAULT '' NOT NULL,
	"proposal" jsonb,
	"dossier_id" uuid,
	"document_ids" uuid[] DEFAULT '{}' NOT NULL,
	"done_by" uuid,
	"done_at" timestamp with time zone,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_dossier_id_place_id_fk" FOREIGN KEY ("dossier_id") REFERENCES "public"."place"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_done_by_person_id_fk" FOREIGN KEY ("done_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrival_state" ON "arrival" USING btree ("state","arrived_at");--> statement-breakpoint
CREATE INDEX "arrival_sender" ON "arrival" USING btree ("sender_address");--> statement-breakpoint
CREATE INDEX "arrival_content" ON "arrival" USING btree ("sha256");--> statement-breakpoint
CREATE UNIQUE INDEX "arrival_once" ON "arrival" USING btree ("same_key") WHERE "arrival"."state" <> 'again';