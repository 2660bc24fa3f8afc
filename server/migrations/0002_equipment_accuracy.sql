ALTER TABLE "equipment" ADD COLUMN "drift" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "equipment" ADD COLUMN "resolution" text DEFAULT '' NOT NULL;