CREATE TABLE "disposal_run" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"state" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"prepared_by" uuid NOT NULL,
	"prepared_at" timestamp with time zone NOT NULL,
	"approved_by" uuid,
	"approved_at" timestamp with time zone,
	"place_id" uuid NOT NULL,
	"certificate_id" uuid,
	"ended_at" timestamp with time zone,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "disposal_run_item" (
	"run_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"title" text collate "natural" NOT NULL,
	"place_name" text NOT NULL,
	"dossier_name" text NOT NULL,
	"class_name" text NOT NULL,
	"authority" text NOT NULL,
	"kept_until" date NOT NULL,
	"sha256s" text[] NOT NULL,
	"size_bytes" bigint NOT NULL,
	"state" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"destroyed_at" timestamp with time zone,
	CONSTRAINT "disposal_run_item_run_id_document_id_pk" PRIMARY KEY("run_id","document_id")
);
--> statement-breakpoint
CREATE TABLE "hold" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"reason" text NOT NULL,
	"placed_by" uuid NOT NULL,
	"placed_at" timestamp with time zone NOT NULL,
	"lifted_by" uuid,
	"lifted_at" timestamp with time zone,
	"lift_reason" text DEFAULT '' NOT NULL,
	"was_on" text[] DEFAULT '{}' NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "hold_on" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"hold_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"place_id" uuid,
	"document_id" uuid,
	"view" jsonb,
	CONSTRAINT "hold_on_once" UNIQUE NULLS NOT DISTINCT("hold_id","place_id","document_id","view"),
	CONSTRAINT "hold_on_one" CHECK (("hold_on"."place_id" is not null)::int + ("hold_on"."document_id" is not null)::int + ("hold_on"."view" is not null)::int = 1)
);
--> statement-breakpoint
CREATE TABLE "retention_class" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"authority" text DEFAULT '' NOT NULL,
	"starts_from" text NOT NULL,
	"column_id" uuid,
	"months" integer,
	"ends" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "retention_class_name_taken" UNIQUE("name_key"),
	CONSTRAINT "retention_class_column" CHECK (("retention_class"."starts_from" = 'column') = ("retention_class"."column_id" is not null)),
	CONSTRAINT "retention_class_months" CHECK ("retention_class"."months" is not null or "retention_class"."ends" = 'keep')
);
--> statement-breakpoint
CREATE TABLE "retention_rule" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	"column_id" uuid,
	"term_id" uuid,
	"class_id" uuid NOT NULL,
	CONSTRAINT "retention_rule_once" UNIQUE NULLS NOT DISTINCT("place_id","column_id","term_id"),
	CONSTRAINT "retention_rule_type" CHECK (("retention_rule"."column_id" is null) = ("retention_rule"."term_id" is null))
);
--> statement-breakpoint
CREATE TABLE "review" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"document_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"outcome" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"replaced_by_id" uuid,
	"day" date NOT NULL,
	"due_on" date,
	"done_by" uuid NOT NULL,
	"done_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "review_rule" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid,
	"document_id" uuid,
	"column_id" uuid,
	"term_id" uuid,
	"never" boolean DEFAULT false NOT NULL,
	"every_months" integer,
	"rhythm" text,
	"first_on" date,
	"warn_days" integer DEFAULT 30 NOT NULL,
	"responsible_id" uuid,
	"revision" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "review_rule_once" UNIQUE NULLS NOT DISTINCT("place_id","document_id","column_id","term_id"),
	CONSTRAINT "review_rule_one_object" CHECK (("review_rule"."place_id" is not null) <> ("review_rule"."document_id" is not null)),
	CONSTRAINT "review_rule_type" CHECK (("review_rule"."column_id" is null) = ("review_rule"."term_id" is null)),
	CONSTRAINT "review_rule_rhythm" CHECK (("review_rule"."every_months" is not null)::int + ("review_rule"."rhythm" is not null)::int + "review_rule"."never"::int = 1)
);
--> statement-breakpoint
ALTER TABLE "disposal_run" ADD CONSTRAINT "disposal_run_prepared_by_person_id_fk" FOREIGN KEY ("prepared_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "disposal_run" ADD CONSTRAINT "disposal_run_approved_by_person_id_fk" FOREIGN KEY ("approved_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "disposal_run" ADD CONSTRAINT "disposal_run_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "disposal_run_item" ADD CONSTRAINT "disposal_run_item_run_id_disposal_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."disposal_run"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold" ADD CONSTRAINT "hold_placed_by_person_id_fk" FOREIGN KEY ("placed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold" ADD CONSTRAINT "hold_lifted_by_person_id_fk" FOREIGN KEY ("lifted_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold_on" ADD CONSTRAINT "hold_on_hold_id_hold_id_fk" FOREIGN KEY ("hold_id") REFERENCES "public"."hold"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold_on" ADD CONSTRAINT "hold_on_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold_on" ADD CONSTRAINT "hold_on_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retention_class" ADD CONSTRAINT "retention_class_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retention_rule" ADD CONSTRAINT "retention_rule_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retention_rule" ADD CONSTRAINT "retention_rule_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retention_rule" ADD CONSTRAINT "retention_rule_term_id_term_id_fk" FOREIGN KEY ("term_id") REFERENCES "public"."term"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retention_rule" ADD CONSTRAINT "retention_rule_class_id_retention_class_id_fk" FOREIGN KEY ("class_id") REFERENCES "public"."retention_class"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review" ADD CONSTRAINT "review_done_by_person_id_fk" FOREIGN KEY ("done_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_rule" ADD CONSTRAINT "review_rule_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_rule" ADD CONSTRAINT "review_rule_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_rule" ADD CONSTRAINT "review_rule_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_rule" ADD CONSTRAINT "review_rule_term_id_term_id_fk" FOREIGN KEY ("term_id") REFERENCES "public"."term"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_rule" ADD CONSTRAINT "review_rule_responsible_id_person_id_fk" FOREIGN KEY ("responsible_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "disposal_run_item_document" ON "disposal_run_item" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "hold_on_hold" ON "hold_on" USING btree ("hold_id");--> statement-breakpoint
CREATE INDEX "hold_on_place" ON "hold_on" USING btree ("place_id");--> statement-breakpoint
CREATE INDEX "hold_on_document" ON "hold_on" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "retention_rule_class" ON "retention_rule" USING btree ("class_id");--> statement-breakpoint
CREATE INDEX "review_document" ON "review" USING btree ("document_id","day");--> statement-breakpoint
CREATE INDEX "review_rule_document" ON "review_rule" USING btree ("document_id");--> statement-breakpoint
create trigger review_rule_changed after insert or update or delete on review_rule for each statement execute function note_world();
--> statement-breakpoint
create trigger review_changed after insert or update or delete on review for each statement execute function note_world();
--> statement-breakpoint
create trigger retention_class_changed after insert or update or delete on retention_class for each statement execute function note_world();
--> statement-breakpoint
create trigger retention_rule_changed after insert or update or delete on retention_rule for each statement execute function note_world();
