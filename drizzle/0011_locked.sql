ALTER TABLE "document" ADD COLUMN "locked" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "locked" boolean DEFAULT false NOT NULL;