ALTER TABLE "arrival" ADD COLUMN "versions" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "told" uuid[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD COLUMN "values" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD COLUMN "label_ids" uuid[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD COLUMN "tell" uuid[] DEFAULT '{}' NOT NULL;