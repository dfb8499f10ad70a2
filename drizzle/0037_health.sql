CREATE TABLE "health_count" (
	"finding" text NOT NULL,
	"day" date NOT NULL,
	"number" integer NOT NULL,
	CONSTRAINT "health_count_finding_day_pk" PRIMARY KEY("finding","day")
);
