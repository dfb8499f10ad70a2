CREATE TABLE "page_picture" (
	"sha256" text NOT NULL,
	"page" integer NOT NULL,
	"picture" "bytea" NOT NULL,
	"used_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "page_picture_sha256_page_pk" PRIMARY KEY("sha256","page")
);
--> statement-breakpoint
CREATE TABLE "reading_attempt" (
	"sha256" text PRIMARY KEY NOT NULL,
	"attempts" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "value_batch" (
	"id" uuid PRIMARY KEY NOT NULL,
	"entry_id" bigint NOT NULL,
	CONSTRAINT "value_batch_once" UNIQUE("entry_id")
);
--> statement-breakpoint
ALTER TABLE "preview" ADD COLUMN "fault" text;--> statement-breakpoint
ALTER TABLE "scope_entry" ADD COLUMN "by_opening" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "value_change" ADD COLUMN "batch_id" uuid;--> statement-breakpoint
ALTER TABLE "page_picture" ADD CONSTRAINT "page_picture_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_batch" ADD CONSTRAINT "value_batch_entry_id_journal_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."journal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "page_picture_used" ON "page_picture" USING btree ("used_at");--> statement-breakpoint
INSERT INTO "value_batch" ("id", "entry_id") SELECT gen_random_uuid(), "entry_id" FROM (SELECT DISTINCT "entry_id" FROM "value_change") AS "acts";--> statement-breakpoint
UPDATE "value_change" SET "batch_id" = "value_batch"."id" FROM "value_batch" WHERE "value_batch"."entry_id" = "value_change"."entry_id";--> statement-breakpoint
-- Whether somebody sees a paper only by a place that lets its readers in: worked out anew for all papers with a scope of their own.
UPDATE "library" SET "membership_day" = NULL;
