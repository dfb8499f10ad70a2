CREATE TABLE "follow" (
	"person_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"ref" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "follow_person_id_kind_ref_pk" PRIMARY KEY("person_id","kind","ref")
);
--> statement-breakpoint
CREATE TABLE "follow_mail" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"every" text NOT NULL,
	"hour" smallint NOT NULL,
	"weekday" smallint NOT NULL,
	"sent_day" date,
	"since" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "follow" ADD CONSTRAINT "follow_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "follow_mail" ADD CONSTRAINT "follow_mail_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;