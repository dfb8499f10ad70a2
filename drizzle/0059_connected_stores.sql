CREATE TABLE "store_paper" (
	"way_in_id" uuid NOT NULL,
	"path" text NOT NULL,
	"size_bytes" bigint NOT NULL,
	"changed_at" timestamp with time zone,
	"edition" text NOT NULL,
	"state" text DEFAULT 'there' NOT NULL,
	CONSTRAINT "store_paper_way_in_id_path_pk" PRIMARY KEY("way_in_id","path")
);
--> statement-breakpoint
ALTER TABLE "store_paper" ADD CONSTRAINT "store_paper_way_in_id_way_in_id_fk" FOREIGN KEY ("way_in_id") REFERENCES "public"."way_in"("id") ON DELETE cascade ON UPDATE no action;