ALTER TABLE "sign_off" DROP CONSTRAINT "sign_off_document_id_document_id_fk";
--> statement-breakpoint
ALTER TABLE "sign_off" DROP CONSTRAINT "sign_off_version_id_version_id_fk";
--> statement-breakpoint
ALTER TABLE "sign_off" ALTER COLUMN "document_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "sign_off" ALTER COLUMN "version_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "signature" text;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE set null ON UPDATE no action;