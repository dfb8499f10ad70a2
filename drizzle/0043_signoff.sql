CREATE TABLE "seal_certificate" (
	"fingerprint" text PRIMARY KEY NOT NULL,
	"certificate" text NOT NULL,
	"sealed_key" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_off" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"document_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"way" text NOT NULL,
	"state" text NOT NULL,
	"wording" text DEFAULT '' NOT NULL,
	"in_turn" boolean NOT NULL,
	"needed" integer NOT NULL,
	"due_on" date,
	"remind_days" integer NOT NULL,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"end_reason" text DEFAULT '' NOT NULL,
	"place_id" uuid,
	"expectation_id" uuid,
	"dossier_id" uuid,
	"start_year" integer,
	"meeting_id" uuid,
	"seal_state" text NOT NULL,
	"seal_tries" integer DEFAULT 0 NOT NULL,
	"signed_id" uuid,
	"signed_sha256" text,
	CONSTRAINT "sign_off_needed" CHECK ("sign_off"."needed" >= 1)
);
--> statement-breakpoint
CREATE TABLE "signer" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"sign_off_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"person_id" uuid,
	"name" text collate "natural" NOT NULL,
	"email" text,
	"link_id" uuid,
	"answer" text,
	"reason" text DEFAULT '' NOT NULL,
	"answered_at" timestamp with time zone,
	"proof" text,
	"address" text DEFAULT '' NOT NULL,
	"agent" text DEFAULT '' NOT NULL,
	"typed_name" text DEFAULT '' NOT NULL,
	"drawn" jsonb,
	"asked_at" timestamp with time zone,
	"reminders" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "signer_position" UNIQUE("sign_off_id","position"),
	CONSTRAINT "signer_once" UNIQUE("sign_off_id","person_id"),
	CONSTRAINT "signer_link" UNIQUE("link_id"),
	CONSTRAINT "signer_answered" CHECK (("signer"."answer" is null) = ("signer"."answered_at" is null))
);
--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_asked_by_person_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_dossier_id_place_id_fk" FOREIGN KEY ("dossier_id") REFERENCES "public"."place"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_meeting_id_meeting_id_fk" FOREIGN KEY ("meeting_id") REFERENCES "public"."meeting"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_signed_id_document_id_fk" FOREIGN KEY ("signed_id") REFERENCES "public"."document"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_sign_off_id_sign_off_id_fk" FOREIGN KEY ("sign_off_id") REFERENCES "public"."sign_off"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_link_id_outside_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."outside_link"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sign_off_document" ON "sign_off" USING btree ("document_id");--> statement-breakpoint
CREATE INDEX "sign_off_signed" ON "sign_off" USING btree ("signed_id");--> statement-breakpoint
CREATE INDEX "sign_off_open" ON "sign_off" USING btree ("asked_by") WHERE "sign_off"."state" = 'open';--> statement-breakpoint
CREATE INDEX "sign_off_to_seal" ON "sign_off" USING btree ("id") WHERE "sign_off"."seal_state" = 'waiting';--> statement-breakpoint
CREATE INDEX "signer_person" ON "signer" USING btree ("person_id") WHERE "signer"."answer" is null;