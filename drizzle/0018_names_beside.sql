ALTER TABLE "place" DROP CONSTRAINT "place_name_taken";--> statement-breakpoint
CREATE INDEX "place_beside" ON "place" USING btree ("parent_id","name_key");