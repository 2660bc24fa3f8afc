ALTER TABLE "loops" ADD COLUMN "drift" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "errors" jsonb;