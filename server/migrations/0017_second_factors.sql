CREATE TABLE "second_factors" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"secret" text NOT NULL,
	"since" timestamp (3) with time zone,
	"last_step" integer DEFAULT 0 NOT NULL,
	"recovery" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "second_factors" ADD CONSTRAINT "second_factors_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;