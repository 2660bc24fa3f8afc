ALTER TABLE "runs" ADD COLUMN "folded" jsonb;--> statement-breakpoint
CREATE INDEX "events_of_kind" ON "events" USING btree ("loop_id","type","seq");