CREATE TABLE "sign_ins" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"outcome" text NOT NULL,
	CONSTRAINT "sign_ins_outcome_known" CHECK ("sign_ins"."outcome" in ('tried', 'right', 'wrong'))
);
--> statement-breakpoint
ALTER TABLE "loop_revisions" DROP CONSTRAINT "loop_revisions_by_people_id_fk";
--> statement-breakpoint
ALTER TABLE "events" DROP CONSTRAINT "events_by_people_id_fk";
--> statement-breakpoint
ALTER TABLE "runs" DROP CONSTRAINT "runs_started_by_people_id_fk";
--> statement-breakpoint
ALTER TABLE "events" ALTER COLUMN "recorded_at" SET DATA TYPE timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "events" ALTER COLUMN "recorded_at" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "equipment" ADD COLUMN "foreign" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "taken" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "form" smallint DEFAULT 1 NOT NULL;--> statement-breakpoint
CREATE INDEX "sign_ins_by_name" ON "sign_ins" USING btree ("name","at");--> statement-breakpoint
CREATE INDEX "sign_ins_by_address" ON "sign_ins" USING btree ("address","at");--> statement-breakpoint
CREATE FUNCTION "evidence_stays"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	RAISE EXCEPTION 'What was recorded in % stays as it is.', TG_TABLE_NAME USING ERRCODE = 'insufficient_privilege';
END $$;--> statement-breakpoint
CREATE TRIGGER "events_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "events" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();--> statement-breakpoint
CREATE TRIGGER "loop_revisions_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "loop_revisions" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();
