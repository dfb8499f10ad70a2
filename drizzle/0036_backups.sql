CREATE TABLE "backup_note" (
	"name" text PRIMARY KEY NOT NULL,
	"folder" text NOT NULL,
	"taken_at" timestamp with time zone NOT NULL,
	"papers" integer NOT NULL,
	"bytes" bigint NOT NULL,
	"new_bytes" bigint NOT NULL,
	"damaged" integer NOT NULL,
	"verified_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "backup_every_days" integer DEFAULT 1;