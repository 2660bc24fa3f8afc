CREATE TABLE "sensor_revisions" (
	"sensor_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"description" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" uuid NOT NULL,
	"reason" text NOT NULL,
	CONSTRAINT "sensor_revisions_one_per_number" PRIMARY KEY("sensor_id","revision")
);
