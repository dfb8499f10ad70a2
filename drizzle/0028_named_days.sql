ALTER TABLE "reading" ADD COLUMN "named_days" date[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "named_references" text[] DEFAULT '{}' NOT NULL;