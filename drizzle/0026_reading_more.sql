CREATE TABLE "likeness_band" (
	"band" smallint NOT NULL,
	"key" integer NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "likeness_band_band_key_sha256_pk" PRIMARY KEY("band","key","sha256")
);
--> statement-breakpoint
CREATE TABLE "note" (
	"document_id" uuid PRIMARY KEY NOT NULL,
	"version_id" uuid NOT NULL,
	"round" integer NOT NULL,
	"kept_number" bigint NOT NULL,
	"is_start" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "note_change" (
	"document_id" uuid NOT NULL,
	"number" bigint NOT NULL,
	"round" integer NOT NULL,
	"change" "bytea" NOT NULL,
	"person_id" uuid,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "note_change_document_id_number_pk" PRIMARY KEY("document_id","number")
);
--> statement-breakpoint
CREATE TABLE "note_writer" (
	"document_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "note_writer_document_id_person_id_pk" PRIMARY KEY("document_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "paper_cover" (
	"document_id" uuid PRIMARY KEY NOT NULL,
	"picture" "bytea" NOT NULL,
	"set_by" uuid NOT NULL,
	"set_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "document" RENAME COLUMN "note" TO "remark";--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "text_key" text;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "sketch" integer[];--> statement-breakpoint
ALTER TABLE "version" ADD COLUMN "remark" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "likeness_band" ADD CONSTRAINT "likeness_band_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note" ADD CONSTRAINT "note_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note" ADD CONSTRAINT "note_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_change" ADD CONSTRAINT "note_change_document_id_note_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."note"("document_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_change" ADD CONSTRAINT "note_change_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_writer" ADD CONSTRAINT "note_writer_document_id_note_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."note"("document_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_writer" ADD CONSTRAINT "note_writer_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_cover" ADD CONSTRAINT "paper_cover_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper_cover" ADD CONSTRAINT "paper_cover_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "likeness_band_content" ON "likeness_band" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "note_writer_person" ON "note_writer" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "reading_text" ON "reading" USING btree ("text_key");