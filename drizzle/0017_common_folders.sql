ALTER TABLE "place" ADD COLUMN "seen_in" text;--> statement-breakpoint
CREATE INDEX "place_common" ON "place" USING btree ("parent_id") WHERE "place"."seen_in" is not null;