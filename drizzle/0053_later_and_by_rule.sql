ALTER TABLE "arrival" ADD COLUMN "corrected" text[];--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "file_by" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "by_rule" text;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "rule_fault" text;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "asked_of" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "said" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "put_off_until" date;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD COLUMN "files_from" integer;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD COLUMN "set_by" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_file_by_filing_rule_id_fk" FOREIGN KEY ("file_by") REFERENCES "public"."filing_rule"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_asked_of_person_id_fk" FOREIGN KEY ("asked_of") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "filing_rule" ADD CONSTRAINT "filing_rule_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;