ALTER TABLE "upload" ALTER COLUMN "place_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "joins" jsonb;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "joined_to" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "brought_by" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_brought_by_person_id_fk" FOREIGN KEY ("brought_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrival_joined" ON "arrival" USING btree ("joined_to");