DROP INDEX "loops_tag_whatever_case";--> statement-breakpoint
ALTER TABLE "loops" ADD COLUMN "archived_at" timestamp (3) with time zone;--> statement-breakpoint
CREATE UNIQUE INDEX "loops_tag_in_use" ON "loops" USING btree (upper("tag")) WHERE "loops"."archived_at" is null;