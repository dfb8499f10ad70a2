CREATE TABLE "access_change" (
	"entry_id" bigint PRIMARY KEY NOT NULL,
	"place_id" uuid,
	"document_id" uuid,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "filing" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"document_id" uuid NOT NULL,
	"place_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"made_by" uuid NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	CONSTRAINT "filing_once" UNIQUE("document_id","place_id")
);
--> statement-breakpoint
CREATE TABLE "group_term" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"group_id" uuid NOT NULL,
	"person_id" uuid,
	"member_group_id" uuid,
	"role" text DEFAULT 'member' NOT NULL,
	"from_day" date,
	"until_day" date,
	CONSTRAINT "group_term_one_member" CHECK (("group_term"."person_id" is not null) <> ("group_term"."member_group_id" is not null)),
	CONSTRAINT "group_term_in_order" CHECK ("group_term"."from_day" <= "group_term"."until_day")
);
--> statement-breakpoint
ALTER TABLE "access_grant" DROP CONSTRAINT "access_grant_once";--> statement-breakpoint
ALTER TABLE "access_grant" ALTER COLUMN "place_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "scope" ALTER COLUMN "place_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "access_grant" ADD COLUMN "document_id" uuid;--> statement-breakpoint
ALTER TABLE "access_grant" ADD COLUMN "given_by" uuid;--> statement-breakpoint
ALTER TABLE "access_grant" ADD COLUMN "given_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "follows" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "scope_id" uuid;--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "access_revision" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "library" ADD COLUMN "membership_day" date;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "outside" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "scope" ADD COLUMN "document_id" uuid;--> statement-breakpoint
ALTER TABLE "access_change" ADD CONSTRAINT "access_change_entry_id_journal_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."journal"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "access_change" ADD CONSTRAINT "access_change_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "access_change" ADD CONSTRAINT "access_change_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "filing" ADD CONSTRAINT "filing_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "filing" ADD CONSTRAINT "filing_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "filing" ADD CONSTRAINT "filing_made_by_person_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_term" ADD CONSTRAINT "group_term_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_term" ADD CONSTRAINT "group_term_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_term" ADD CONSTRAINT "group_term_member_group_id_person_group_id_fk" FOREIGN KEY ("member_group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "filing_place" ON "filing" USING btree ("place_id");--> statement-breakpoint
CREATE INDEX "group_term_group" ON "group_term" USING btree ("group_id");--> statement-breakpoint
-- What was given to groups that are gone speaks to nobody.
delete from access_grant where group_id is not null and group_id not in (select id from person_group);--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_given_by_person_id_fk" FOREIGN KEY ("given_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_scope_id_scope_id_fk" FOREIGN KEY ("scope_id") REFERENCES "public"."scope"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "access_grant_document" ON "access_grant" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "document_scope" ON "document" USING btree ("scope_id") WHERE "document"."scope_id" is not null;--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_once" UNIQUE NULLS NOT DISTINCT("place_id","document_id","person_id","group_id","everyone");--> statement-breakpoint
ALTER TABLE "scope" ADD CONSTRAINT "scope_documentId_unique" UNIQUE("document_id");--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_one_object" CHECK (("access_grant"."place_id" is not null) <> ("access_grant"."document_id" is not null));--> statement-breakpoint
ALTER TABLE "scope" ADD CONSTRAINT "scope_one_owner" CHECK (("scope"."place_id" is not null) <> ("scope"."document_id" is not null));