CREATE TABLE "bookmark" (
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"ref" text NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"position" double precision NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "bookmark_person_id_kind_ref_pk" PRIMARY KEY("person_id","kind","ref")
);
--> statement-breakpoint
CREATE TABLE "desk_arrangement" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"arrangement" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bookmark" ADD CONSTRAINT "bookmark_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_arrangement" ADD CONSTRAINT "desk_arrangement_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bookmark_order" ON "bookmark" USING btree ("person_id","position");--> statement-breakpoint
CREATE INDEX "document_filer" ON "document" USING btree ("filed_by","filed_at");