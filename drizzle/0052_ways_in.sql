CREATE TABLE "way_in" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"on" boolean DEFAULT true NOT NULL,
	"settings" jsonb NOT NULL,
	"locked_password" text,
	"reached" jsonb,
	"look_now" boolean DEFAULT true NOT NULL,
	"looked_at" timestamp with time zone,
	"took_at" timestamp with time zone,
	"fault" text,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "arrival" ALTER COLUMN "envelope_from" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "way_in_id" uuid;--> statement-breakpoint
ALTER TABLE "arrival" ADD COLUMN "origin" text;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_way_in_id_way_in_id_fk" FOREIGN KEY ("way_in_id") REFERENCES "public"."way_in"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "arrival" ADD CONSTRAINT "arrival_origin_unique" UNIQUE("origin");