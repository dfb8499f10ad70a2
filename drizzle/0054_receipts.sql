ALTER TABLE "arrival" ADD COLUMN "receipt" text DEFAULT 'none' NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "receipt_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "answers_senders" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "arrival_receipt" ON "arrival" USING btree ("receipt_at") WHERE "arrival"."receipt_at" is not null;--> statement-breakpoint
CREATE INDEX "arrival_receipt_due" ON "arrival" USING btree ("arrived_at") WHERE "arrival"."receipt" = 'due';