CREATE TABLE "filing_plan" (
	"series_id" uuid PRIMARY KEY NOT NULL,
	"folders" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "meeting" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"dossier_id" uuid NOT NULL,
	"day" date NOT NULL,
	"title" text NOT NULL,
	"venue" text DEFAULT '' NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "planned_key" text;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "planned_name" text;--> statement-breakpoint
ALTER TABLE "filing_plan" ADD CONSTRAINT "filing_plan_series_id_place_id_fk" FOREIGN KEY ("series_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "meeting" ADD CONSTRAINT "meeting_dossier_id_place_id_fk" FOREIGN KEY ("dossier_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "meeting_dossier" ON "meeting" USING btree ("dossier_id","day");--> statement-breakpoint
CREATE INDEX "place_planned" ON "place" USING btree ("planned_key");