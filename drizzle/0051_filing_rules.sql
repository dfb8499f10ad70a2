CREATE TABLE "filing_rule" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"on" boolean DEFAULT true NOT NULL,
	"conditions" jsonb NOT NULL,
	"place_id" uuid,
	"title" text NOT NULL,
	"position" integer NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "filing_rule" ADD CONSTRAINT "filing_rule_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE set null ON UPDATE no action;