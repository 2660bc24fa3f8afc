ALTER TABLE "people" ADD COLUMN "provider" text;--> statement-breakpoint
CREATE UNIQUE INDEX "people_one_each_at_the_provider" ON "people" USING btree ("provider");