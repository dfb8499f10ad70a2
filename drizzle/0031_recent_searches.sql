CREATE TABLE "recent_search" (
	"person_id" uuid NOT NULL,
	"words" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "recent_search_person_id_words_pk" PRIMARY KEY("person_id","words")
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "keeps_searches" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "recent_search" ADD CONSTRAINT "recent_search_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;