ALTER TABLE "arrival" ADD COLUMN "identifiers" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
CREATE INDEX "arrival_identifiers" ON "arrival" USING gin ("identifiers");