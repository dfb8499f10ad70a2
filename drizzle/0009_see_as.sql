CREATE TABLE "see_as" (
	"session_id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid,
	"group_id" uuid,
	CONSTRAINT "see_as_one" CHECK (("see_as"."person_id" is not null) <> ("see_as"."group_id" is not null))
);
--> statement-breakpoint
ALTER TABLE "see_as" ADD CONSTRAINT "see_as_session_id_session_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."session"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "see_as" ADD CONSTRAINT "see_as_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "see_as" ADD CONSTRAINT "see_as_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;