CREATE TABLE "attachment" (
	"mail_sha256" text NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "attachment_mail_sha256_number_pk" PRIMARY KEY("mail_sha256","number")
);
--> statement-breakpoint
CREATE TABLE "reading" (
	"sha256" text PRIMARY KEY NOT NULL,
	"page_count" integer,
	"word_count" integer,
	"picture" "bytea",
	"language" text,
	"title" text,
	"author" text,
	"summary" text[] DEFAULT '{}' NOT NULL,
	"key_words" text[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reading_form" (
	"sha256" text NOT NULL,
	"form" text NOT NULL,
	"pages" integer,
	"size_bytes" integer NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "reading_form_sha256_form_pk" PRIMARY KEY("sha256","form")
);
--> statement-breakpoint
CREATE TABLE "reading_page" (
	"sha256" text NOT NULL,
	"page" integer NOT NULL,
	"words" text NOT NULL,
	CONSTRAINT "reading_page_sha256_page_pk" PRIMARY KEY("sha256","page")
);
--> statement-breakpoint
CREATE TABLE "reading_position" (
	"person_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "reading_position_person_id_document_id_pk" PRIMARY KEY("person_id","document_id")
);
--> statement-breakpoint
CREATE TABLE "reading_stage" (
	"sha256" text NOT NULL,
	"stage" text NOT NULL,
	"program" integer NOT NULL,
	"outcome" text NOT NULL,
	"why" text,
	"took_ms" integer NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	CONSTRAINT "reading_stage_sha256_stage_pk" PRIMARY KEY("sha256","stage")
);
--> statement-breakpoint
-- Attempts that were under way count anew, stage by stage.
TRUNCATE "reading_attempt";--> statement-breakpoint
ALTER TABLE "reading_attempt" DROP CONSTRAINT "reading_attempt_pkey";--> statement-breakpoint
ALTER TABLE "reading_attempt" ADD COLUMN "stage" text NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_attempt" ADD CONSTRAINT "reading_attempt_sha256_stage_pk" PRIMARY KEY("sha256","stage");--> statement-breakpoint
-- Uncompressed and out of the row: a part of it is read without the rest.
ALTER TABLE "reading_form" ALTER COLUMN "data" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "attachment" ADD CONSTRAINT "attachment_mail_sha256_blob_sha256_fk" FOREIGN KEY ("mail_sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachment" ADD CONSTRAINT "attachment_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_form" ADD CONSTRAINT "reading_form_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_page" ADD CONSTRAINT "reading_page_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_position" ADD CONSTRAINT "reading_position_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_position" ADD CONSTRAINT "reading_position_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_stage" ADD CONSTRAINT "reading_stage_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachment_content" ON "attachment" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "reading_stage_program" ON "reading_stage" USING btree ("stage","program");