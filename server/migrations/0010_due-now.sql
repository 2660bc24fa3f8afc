ALTER TABLE "loops" ADD COLUMN "due_now" date;--> statement-breakpoint
UPDATE "loops" SET "summary" = jsonb_build_object('dueNow', null) || "summary";--> statement-breakpoint
UPDATE "loops" SET "due_now" = "last_calibrated", "summary" = "summary" || jsonb_build_object('dueNow', jsonb_build_object('on', "last_calibrated"::text, 'why', 'out of tolerance'))
  WHERE "last_calibrated" IS NOT NULL AND "summary" ->> 'verdict' IN ('FAIL', 'CONDITIONAL_FAIL');--> statement-breakpoint
ALTER TABLE "loops" drop column "due";--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "due" date GENERATED ALWAYS AS (least(due_now, (last_calibrated + make_interval(months => interval_months))::date)) STORED;
