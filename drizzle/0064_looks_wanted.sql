ALTER TABLE "way_in" ADD COLUMN "looks_wanted" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "way_in" ADD COLUMN "looks_met" integer DEFAULT 0 NOT NULL;