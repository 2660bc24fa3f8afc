CREATE TABLE "sensor_stand_ins" (
	"sensor_id" uuid PRIMARY KEY NOT NULL,
	"state" jsonb NOT NULL,
	"since" timestamp (3) with time zone NOT NULL,
	"beakers" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"written" boolean DEFAULT false NOT NULL
);
