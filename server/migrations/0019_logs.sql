CREATE TABLE "log_blocks" (
	"log_id" uuid NOT NULL,
	"channel" smallint NOT NULL,
	"block" integer NOT NULL,
	"rows" integer NOT NULL,
	"from_ms" double precision NOT NULL,
	"to_ms" double precision NOT NULL,
	"chunks" "bytea" NOT NULL,
	"samples" "bytea" NOT NULL,
	CONSTRAINT "log_blocks_one_per_place" PRIMARY KEY("log_id","channel","block")
);
--> statement-breakpoint
CREATE TABLE "log_pieces" (
	"log_id" uuid NOT NULL,
	"piece" integer NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "log_pieces_one_per_place" PRIMARY KEY("log_id","piece")
);
--> statement-breakpoint
CREATE TABLE "logs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"title" text NOT NULL,
	"of" text NOT NULL,
	"instrument" uuid,
	"site" text NOT NULL,
	"files" jsonb NOT NULL,
	"mapping" jsonb NOT NULL,
	"simulated" boolean NOT NULL,
	"state" text NOT NULL,
	"channels" jsonb NOT NULL,
	"rows" integer DEFAULT 0 NOT NULL,
	"wrong_count" integer DEFAULT 0 NOT NULL,
	"wrong" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"pieces" integer DEFAULT 0 NOT NULL,
	"blocks" integer DEFAULT 0 NOT NULL,
	"line" integer DEFAULT 0 NOT NULL,
	"reader" jsonb NOT NULL,
	"from_ms" double precision,
	"to_ms" double precision,
	"interval" double precision DEFAULT 0 NOT NULL,
	"gap_above" double precision DEFAULT 0 NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "log_blocks" ADD CONSTRAINT "log_blocks_log_id_logs_id_fk" FOREIGN KEY ("log_id") REFERENCES "public"."logs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "log_pieces" ADD CONSTRAINT "log_pieces_log_id_logs_id_fk" FOREIGN KEY ("log_id") REFERENCES "public"."logs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "logs" ADD CONSTRAINT "logs_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "logs" ADD CONSTRAINT "logs_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "logs_by_loop" ON "logs" USING btree ("loop_id","at");--> statement-breakpoint
-- A view reads a few of the samples of a block: only what is not compressed can be read in slices.
ALTER TABLE "log_blocks" ALTER COLUMN "samples" SET STORAGE EXTERNAL;
