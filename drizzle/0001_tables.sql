CREATE TABLE "access_grant" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	"person_id" uuid,
	"group_id" uuid,
	"everyone" boolean DEFAULT false NOT NULL,
	"gives" smallint NOT NULL,
	"withholds" smallint DEFAULT 0 NOT NULL,
	CONSTRAINT "access_grant_once" UNIQUE NULLS NOT DISTINCT("place_id","person_id","group_id","everyone"),
	CONSTRAINT "access_grant_one_subject" CHECK (("access_grant"."person_id" is not null)::int + ("access_grant"."group_id" is not null)::int + "access_grant"."everyone"::int = 1)
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" uuid NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "blob" (
	"sha256" text PRIMARY KEY NOT NULL,
	"content_id" uuid NOT NULL,
	"size_bytes" bigint NOT NULL,
	CONSTRAINT "blob_contentId_unique" UNIQUE("content_id")
);
--> statement-breakpoint
CREATE TABLE "blob_chunk" (
	"content_id" uuid NOT NULL,
	"start_byte" bigint NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "blob_chunk_content_id_start_byte_pk" PRIMARY KEY("content_id","start_byte")
);
--> statement-breakpoint
CREATE TABLE "document" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"home_id" uuid NOT NULL,
	"title" text collate "natural" NOT NULL,
	"title_key" text NOT NULL,
	"search_key" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"version_id" uuid,
	"stamp" text NOT NULL,
	"size_bytes" bigint NOT NULL,
	"page_count" integer,
	"filed_by" uuid NOT NULL,
	"filed_at" timestamp with time zone NOT NULL,
	"changed_by" uuid NOT NULL,
	"changed_at" timestamp with time zone NOT NULL,
	"disposed_at" timestamp with time zone,
	"disposed_by" uuid,
	"revision" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "filing_year" (
	"start_year" integer PRIMARY KEY NOT NULL
);
--> statement-breakpoint
CREATE TABLE "invitation" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"keeper" boolean NOT NULL,
	"token_hash" text NOT NULL,
	"invited_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "invitation_tokenHash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "journal" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "journal_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"at" timestamp with time zone NOT NULL,
	"person_id" uuid,
	"act" text NOT NULL,
	"subjects" uuid[] NOT NULL,
	"detail" jsonb NOT NULL,
	"previous_hash" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "library" (
	"id" smallint PRIMARY KEY DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"time_zone" text NOT NULL,
	"year_start_month" smallint NOT NULL,
	"max_file_bytes" bigint NOT NULL,
	"families" text[] NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "library_is_one" CHECK ("library"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "membership" (
	"group_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "membership_group_id_person_id_pk" PRIMARY KEY("group_id","person_id")
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"keeper" boolean DEFAULT false NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"search_key" text DEFAULT '' NOT NULL,
	CONSTRAINT "person_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "person_group" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "person_group_nameKey_unique" UNIQUE("name_key")
);
--> statement-breakpoint
CREATE TABLE "place" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"parent_id" uuid,
	"kind" text NOT NULL,
	"name" text collate "natural" NOT NULL,
	"name_key" text NOT NULL,
	"search_key" text NOT NULL,
	"reference" text,
	"reference_pattern" text,
	"filing_year" integer,
	"position" integer NOT NULL,
	"colour" text,
	"closed" boolean DEFAULT false NOT NULL,
	"follows" boolean DEFAULT true NOT NULL,
	"scope_id" uuid,
	"lineage" uuid[] NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"access_revision" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_by" uuid,
	CONSTRAINT "place_name_taken" UNIQUE("parent_id","name_key"),
	CONSTRAINT "place_lineage_ends_in_itself" CHECK ("place"."lineage"[array_length("place"."lineage", 1)] = "place"."id")
);
--> statement-breakpoint
CREATE TABLE "preview" (
	"sha256" text PRIMARY KEY NOT NULL,
	"page_count" integer,
	"picture" "bytea",
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rate_limit" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"key" text NOT NULL,
	"count" integer NOT NULL,
	"last_request" bigint NOT NULL,
	CONSTRAINT "rate_limit_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "scope" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"place_id" uuid NOT NULL,
	CONSTRAINT "scope_placeId_unique" UNIQUE("place_id")
);
--> statement-breakpoint
CREATE TABLE "scope_entry" (
	"scope_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"capabilities" smallint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"token" text NOT NULL,
	"user_id" uuid NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "upload" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"place_id" uuid NOT NULL,
	"content_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"size_bytes" bigint NOT NULL,
	"received_bytes" bigint DEFAULT 0 NOT NULL,
	"hash_state" "bytea",
	"sha256" text,
	"metadata" jsonb NOT NULL,
	"outcome" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "verification" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "version" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"document_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"sha256" text NOT NULL,
	"file_name" text NOT NULL,
	"media_type" text NOT NULL,
	"stamp" text NOT NULL,
	"size_bytes" bigint NOT NULL,
	"made_by" uuid NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"restored_from" integer,
	CONSTRAINT "version_number_once" UNIQUE("document_id","number"),
	CONSTRAINT "version_counts_from_one" CHECK ("version"."number" > 0)
);
--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "access_grant" ADD CONSTRAINT "access_grant_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_home_id_place_id_fk" FOREIGN KEY ("home_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_filed_by_person_id_fk" FOREIGN KEY ("filed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_changed_by_person_id_fk" FOREIGN KEY ("changed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_disposed_by_person_id_fk" FOREIGN KEY ("disposed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitation" ADD CONSTRAINT "invitation_invited_by_person_id_fk" FOREIGN KEY ("invited_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal" ADD CONSTRAINT "journal_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_group_id_person_group_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."person_group"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_parent_id_place_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_scope_id_scope_id_fk" FOREIGN KEY ("scope_id") REFERENCES "public"."scope"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview" ADD CONSTRAINT "preview_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scope" ADD CONSTRAINT "scope_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scope_entry" ADD CONSTRAINT "scope_entry_scope_id_scope_id_fk" FOREIGN KEY ("scope_id") REFERENCES "public"."scope"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scope_entry" ADD CONSTRAINT "scope_entry_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_document_id_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."document"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_made_by_person_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "account_person" ON "account" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "document_home" ON "document" USING btree ("home_id","title","id");--> statement-breakpoint
CREATE INDEX "document_title_key" ON "document" USING btree ("home_id","title_key");--> statement-breakpoint
CREATE INDEX "document_search" ON "document" USING gin ("search_key" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "document_changed" ON "document" USING btree ("changed_at");--> statement-breakpoint
CREATE INDEX "document_disposed" ON "document" USING btree ("disposed_at") WHERE "document"."disposed_at" is not null;--> statement-breakpoint
CREATE INDEX "journal_subjects" ON "journal" USING gin ("subjects");--> statement-breakpoint
CREATE INDEX "membership_person" ON "membership" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "person_search" ON "person" USING gin ("search_key" gin_trgm_ops);--> statement-breakpoint
CREATE UNIQUE INDEX "place_reference_taken" ON "place" USING btree ("parent_id","reference") WHERE "place"."kind" = 'dossier';--> statement-breakpoint
CREATE UNIQUE INDEX "place_year_once" ON "place" USING btree ("parent_id","filing_year") WHERE "place"."kind" = 'year';--> statement-breakpoint
CREATE UNIQUE INDEX "place_one_library" ON "place" USING btree ("kind") WHERE "place"."kind" = 'library';--> statement-breakpoint
CREATE INDEX "place_lineage" ON "place" USING gin ("lineage");--> statement-breakpoint
CREATE INDEX "place_scope" ON "place" USING btree ("scope_id");--> statement-breakpoint
CREATE INDEX "place_search" ON "place" USING gin ("search_key" gin_trgm_ops);--> statement-breakpoint
CREATE UNIQUE INDEX "scope_entry_once" ON "scope_entry" USING btree ("person_id","scope_id");--> statement-breakpoint
CREATE INDEX "scope_entry_scope" ON "scope_entry" USING btree ("scope_id");--> statement-breakpoint
CREATE INDEX "session_person" ON "session" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "upload_person" ON "upload" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "upload_updated" ON "upload" USING btree ("updated_at");--> statement-breakpoint
CREATE INDEX "version_content" ON "version" USING btree ("sha256");