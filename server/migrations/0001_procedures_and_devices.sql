CREATE TABLE "stand_ins" (
	"loop_id" uuid PRIMARY KEY NOT NULL,
	"state" jsonb NOT NULL,
	"since" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "kind" text DEFAULT 'verification' NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "procedure" text;--> statement-breakpoint
ALTER TABLE "stand_ins" ADD CONSTRAINT "stand_ins_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_kind_is_known" CHECK ("runs"."kind" in ('verification', 'procedure'));