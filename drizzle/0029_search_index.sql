CREATE TABLE "search_post" (
	"term" text collate "C" NOT NULL,
	"segment" integer NOT NULL,
	"texts" integer NOT NULL,
	"docs" "bytea" NOT NULL,
	"pos" "bytea" NOT NULL,
	CONSTRAINT "search_post_term_segment_pk" PRIMARY KEY("term","segment")
);
--> statement-breakpoint
CREATE TABLE "search_segment" (
	"segment" integer PRIMARY KEY NOT NULL,
	"texts" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "search_text" (
	"sha256" text PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"language" text NOT NULL,
	"length" integer NOT NULL,
	CONSTRAINT "search_text_number_unique" UNIQUE("number")
);
--> statement-breakpoint
ALTER TABLE "search_text" ADD CONSTRAINT "search_text_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "search_post_segment" ON "search_post" USING btree ("segment");