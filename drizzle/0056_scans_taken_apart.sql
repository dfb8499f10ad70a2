ALTER TABLE "arrival" ADD COLUMN "left_because" text;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "part_of" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "sheet_reference" text;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "cut" jsonb;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "cut_once" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_part_of_arrival_id_fk" FOREIGN KEY ("part_of") REFERENCES "public"."arrival"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrival_parts" ON "arrival" USING btree ("part_of");