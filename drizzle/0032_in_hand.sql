CREATE TABLE "in_hand" (
	"person_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "in_hand_person_id_document_id_pk" PRIMARY KEY("person_id","document_id")
);
--> statement-breakpoint
ALTER TABLE "in_hand" ADD CONSTRAINT "in_hand_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "in_hand" ADD CONSTRAINT "in_hand_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "in_hand_paper" ON "in_hand" USING btree ("document_id");