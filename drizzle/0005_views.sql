CREATE TABLE "look" (
	"person_id" uuid NOT NULL,
	"place_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"before" timestamp with time zone,
	CONSTRAINT "look_person_id_place_id_pk" PRIMARY KEY("person_id","place_id")
);
--> statement-breakpoint
CREATE TABLE "tally_change" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "tally_change_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"xid" "xid8" DEFAULT pg_current_xact_id() NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"subject" text NOT NULL,
	"subject_id" uuid
);
--> statement-breakpoint
CREATE TABLE "view" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	"owner_id" uuid NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"purpose" text DEFAULT '' NOT NULL,
	"audience" text NOT NULL,
	"spec" jsonb NOT NULL,
	"opens_here" boolean DEFAULT false NOT NULL,
	"position" integer NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "view_group" (
	"view_id" uuid NOT NULL,
	"group_id" uuid NOT NULL,
	CONSTRAINT "view_group_view_id_group_id_pk" PRIMARY KEY("view_id","group_id")
);
--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "position" double precision;--> statement-breakpoint
ALTER TABLE "look" ADD CONSTRAINT "look_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "look" ADD CONSTRAINT "look_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view" ADD CONSTRAINT "view_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view" ADD CONSTRAINT "view_owner_id_person_id_fk" FOREIGN KEY ("owner_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_group" ADD CONSTRAINT "view_group_view_id_view_id_fk" FOREIGN KEY ("view_id") REFERENCES "public"."view"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_group" ADD CONSTRAINT "view_group_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tally_change_xid" ON "tally_change" USING btree ("xid");--> statement-breakpoint
CREATE INDEX "tally_change_at" ON "tally_change" USING btree ("at");--> statement-breakpoint
CREATE INDEX "view_place" ON "view" USING btree ("place_id","position");--> statement-breakpoint
CREATE INDEX "document_title" ON "document" USING btree ("title","id");