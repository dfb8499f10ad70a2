CREATE TABLE "column_def" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"help" text DEFAULT '' NOT NULL,
	"type" text NOT NULL,
	"list_id" uuid,
	"open" boolean DEFAULT false NOT NULL,
	"unit" text DEFAULT '' NOT NULL,
	"decimals" integer,
	"currency" text DEFAULT '' NOT NULL,
	"required" boolean DEFAULT false NOT NULL,
	"default_value" jsonb,
	"position" integer NOT NULL,
	"retired" boolean DEFAULT false NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "controlled_list" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "list_name_taken" UNIQUE("name_key")
);
--> statement-breakpoint
CREATE TABLE "document_label" (
	"document_id" uuid NOT NULL,
	"label_id" uuid NOT NULL,
	CONSTRAINT "document_label_document_id_label_id_pk" PRIMARY KEY("document_id","label_id")
);
--> statement-breakpoint
CREATE TABLE "given_value" (
	"place_id" uuid NOT NULL,
	"column_id" uuid NOT NULL,
	"mode" text NOT NULL,
	"value" jsonb,
	"binding" text,
	CONSTRAINT "given_value_place_id_column_id_pk" PRIMARY KEY("place_id","column_id"),
	CONSTRAINT "given_value_or_binding" CHECK (("given_value"."value" is null) <> ("given_value"."binding" is null))
);
--> statement-breakpoint
CREATE TABLE "label" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"hue" text NOT NULL,
	"owner_id" uuid,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "term" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"list_id" uuid NOT NULL,
	"parent_id" uuid,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"other_names" text[] NOT NULL,
	"position" integer NOT NULL,
	"retired" boolean DEFAULT false NOT NULL,
	CONSTRAINT "term_not_under_itself" CHECK ("term"."parent_id" <> "term"."id")
);
--> statement-breakpoint
CREATE TABLE "value_change" (
	"entry_id" bigint NOT NULL,
	"document_id" uuid NOT NULL,
	"column_id" uuid NOT NULL,
	"before" jsonb,
	"after" jsonb,
	CONSTRAINT "value_change_entry_id_document_id_column_id_pk" PRIMARY KEY("entry_id","document_id","column_id")
);
--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "own_values" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "shown_values" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "meeting_day" date;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "fixed_values" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "offered_values" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "column_def" ADD CONSTRAINT "column_def_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_def" ADD CONSTRAINT "column_def_list_id_controlled_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."controlled_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_label" ADD CONSTRAINT "document_label_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_label" ADD CONSTRAINT "document_label_label_id_label_id_fk" FOREIGN KEY ("label_id") REFERENCES "public"."label"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_value" ADD CONSTRAINT "given_value_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_value" ADD CONSTRAINT "given_value_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "label" ADD CONSTRAINT "label_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "term" ADD CONSTRAINT "term_list_id_controlled_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."controlled_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "term" ADD CONSTRAINT "term_parent_id_term_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."term"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_entry_id_journal_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."journal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "column_name_taken" ON "column_def" USING btree ("place_id","name_key") WHERE not "column_def"."retired";--> statement-breakpoint
CREATE INDEX "document_label_label" ON "document_label" USING btree ("label_id");--> statement-breakpoint
CREATE UNIQUE INDEX "label_name_taken" ON "label" USING btree (coalesce("owner_id", '00000000-0000-0000-0000-000000000000'::uuid),"name_key");--> statement-breakpoint
CREATE UNIQUE INDEX "term_name_taken" ON "term" USING btree ("list_id",coalesce("parent_id", "list_id"),"name_key");--> statement-breakpoint
ALTER TABLE "upload" DROP COLUMN "hash_state";