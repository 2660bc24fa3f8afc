CREATE TABLE "day_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"position" integer GENERATED ALWAYS AS IDENTITY (sequence name "day_entries_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"day" date,
	"subject" text NOT NULL,
	"payload" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "day_entries_kind_known" CHECK ("day_entries"."kind" in ('job', 'wish', 'presence', 'mark', 'packed', 'note', 'plan'))
);
--> statement-breakpoint
ALTER TABLE "day_entries" ADD CONSTRAINT "day_entries_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "day_entries_newest" ON "day_entries" USING btree ("kind","subject","day","position");