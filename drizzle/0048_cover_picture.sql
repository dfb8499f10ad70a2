CREATE TABLE "pack_picture" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"picture" "bytea" NOT NULL,
	"set_by" uuid NOT NULL,
	"set_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "pack" ADD COLUMN "picture_id" uuid;--> statement-breakpoint
ALTER TABLE "pack_picture" ADD CONSTRAINT "pack_picture_set_by_person_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pack" ADD CONSTRAINT "pack_picture_id_pack_picture_id_fk" FOREIGN KEY ("picture_id") REFERENCES "public"."pack_picture"("id") ON DELETE no action ON UPDATE no action;