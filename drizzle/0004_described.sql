ALTER TABLE "given_value" DROP CONSTRAINT "given_value_column_id_column_def_id_fk";
--> statement-breakpoint
ALTER TABLE "value_change" DROP CONSTRAINT "value_change_column_id_column_def_id_fk";
--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "word_count" integer;--> statement-breakpoint
ALTER TABLE "preview" ADD COLUMN "word_count" integer;--> statement-breakpoint
ALTER TABLE "given_value" ADD CONSTRAINT "given_value_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "value_change" ADD CONSTRAINT "value_change_column_id_column_def_id_fk" FOREIGN KEY ("column_id") REFERENCES "public"."column_def"("id") ON DELETE cascade ON UPDATE no action;