CREATE TABLE "api_token" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"person_id" uuid NOT NULL,
	"name" text NOT NULL,
	"token_hash" text NOT NULL,
	"capabilities" smallint NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"withdrawn_at" timestamp with time zone,
	CONSTRAINT "api_token_tokenHash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "door_event" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "door_event_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"at" timestamp with time zone NOT NULL,
	"event" text NOT NULL,
	"email" text NOT NULL,
	"person_id" uuid,
	"address" text NOT NULL,
	"agent" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "outside_link" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"token_hash" text NOT NULL,
	"document_id" uuid,
	"place_id" uuid,
	"view" jsonb,
	"email" text,
	"password_hash" text,
	"copies" boolean NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"most_openings" integer,
	"made_by" uuid NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"withdrawn_at" timestamp with time zone,
	"withdrawn_by" uuid,
	"wrong_tries" integer DEFAULT 0 NOT NULL,
	"code_hash" text,
	"code_until" timestamp with time zone,
	CONSTRAINT "outside_link_tokenHash_unique" UNIQUE("token_hash"),
	CONSTRAINT "outside_link_one_object" CHECK (("outside_link"."document_id" is not null) <> ("outside_link"."place_id" is not null)),
	CONSTRAINT "outside_link_view" CHECK (("outside_link"."place_id" is not null) = ("outside_link"."view" is not null))
);
--> statement-breakpoint
CREATE TABLE "outside_opening" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "outside_opening_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"link_id" uuid NOT NULL,
	"visit_hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"address" text NOT NULL,
	"agent" text NOT NULL,
	CONSTRAINT "outside_opening_visitHash_unique" UNIQUE("visit_hash")
);
--> statement-breakpoint
CREATE TABLE "passed_mark" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "passed_mark_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"person_id" uuid NOT NULL,
	"place_id" uuid,
	"document_id" uuid,
	"seen_at" timestamp with time zone,
	"taken_out_at" timestamp with time zone,
	CONSTRAINT "passed_mark_once" UNIQUE NULLS NOT DISTINCT("person_id","place_id","document_id"),
	CONSTRAINT "passed_mark_one_object" CHECK (("passed_mark"."place_id" is not null) <> ("passed_mark"."document_id" is not null))
);
--> statement-breakpoint
CREATE TABLE "two_factor" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"secret" text NOT NULL,
	"backup_codes" text NOT NULL,
	"user_id" uuid NOT NULL,
	"verified" boolean DEFAULT true NOT NULL,
	"failed_verification_count" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp with time zone,
	CONSTRAINT "two_factor_userId_unique" UNIQUE("user_id")
);
--> statement-breakpoint
CREATE TABLE "used_code" (
	"person_id" uuid NOT NULL,
	"code_hash" text NOT NULL,
	"used_at" timestamp with time zone NOT NULL,
	CONSTRAINT "used_code_person_id_code_hash_pk" PRIMARY KEY("person_id","code_hash")
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "two_factor_enabled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "api_token" ADD CONSTRAINT "api_token_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "door_event" ADD CONSTRAINT "door_event_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outside_link" ADD CONSTRAINT "outside_link_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outside_link" ADD CONSTRAINT "outside_link_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outside_link" ADD CONSTRAINT "outside_link_made_by_person_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outside_link" ADD CONSTRAINT "outside_link_withdrawn_by_person_id_fk" FOREIGN KEY ("withdrawn_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outside_opening" ADD CONSTRAINT "outside_opening_link_id_outside_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."outside_link"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passed_mark" ADD CONSTRAINT "passed_mark_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passed_mark" ADD CONSTRAINT "passed_mark_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passed_mark" ADD CONSTRAINT "passed_mark_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "two_factor" ADD CONSTRAINT "two_factor_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "used_code" ADD CONSTRAINT "used_code_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "api_token_person" ON "api_token" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "door_event_email" ON "door_event" USING btree ("email","id");--> statement-breakpoint
CREATE INDEX "door_event_address" ON "door_event" USING btree ("address","id");--> statement-breakpoint
CREATE INDEX "door_event_person" ON "door_event" USING btree ("person_id","id");--> statement-breakpoint
CREATE INDEX "outside_link_document" ON "outside_link" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "outside_link_place" ON "outside_link" USING btree ("place_id");--> statement-breakpoint
CREATE INDEX "outside_opening_link" ON "outside_opening" USING btree ("link_id","id");