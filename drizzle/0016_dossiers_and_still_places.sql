CREATE INDEX "place_dossier" ON "place" USING btree (("lineage"[3]));--> statement-breakpoint
CREATE INDEX "place_still" ON "place" USING btree ("id") WHERE "place"."closed" or "place"."locked";