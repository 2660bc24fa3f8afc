CREATE TABLE "equipment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"serial" text NOT NULL,
	"range" text NOT NULL,
	"uncertainty" text NOT NULL,
	"certificate" text NOT NULL,
	"certified_on" date NOT NULL,
	"due_on" date NOT NULL,
	CONSTRAINT "equipment_certificate_lasts" CHECK ("equipment"."due_on" > "equipment"."certified_on")
);
--> statement-breakpoint
CREATE TABLE "held_rows" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"import_id" uuid NOT NULL,
	"row" integer NOT NULL,
	"cells" jsonb NOT NULL,
	"findings" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" uuid PRIMARY KEY NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"result" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "loop_revisions" (
	"loop_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"document" jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"reason" text NOT NULL,
	CONSTRAINT "loop_revisions_one_per_number" PRIMARY KEY("loop_id","number")
);
--> statement-breakpoint
CREATE TABLE "loops" (
	"id" uuid PRIMARY KEY NOT NULL,
	"position" integer GENERATED ALWAYS AS IDENTITY (sequence name "loops_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"tag" text NOT NULL,
	"service" text NOT NULL,
	"area" text NOT NULL,
	"type" text NOT NULL,
	"revision" integer NOT NULL,
	"summary" jsonb NOT NULL,
	"last_calibrated" date,
	"interval_months" integer,
	"due" date GENERATED ALWAYS AS ((last_calibrated + make_interval(months => interval_months))::date) STORED,
	"last_seq" integer DEFAULT 0 NOT NULL,
	"last_hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"shown_name" text NOT NULL,
	"role" text NOT NULL,
	"password_hash" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "people_role_known" CHECK ("people"."role" in ('technician', 'reviewer', 'viewer'))
);
--> statement-breakpoint
CREATE TABLE "events" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"run_id" uuid,
	"seq" integer NOT NULL,
	"type" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"recorded_at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"payload" jsonb NOT NULL,
	"previous" text NOT NULL,
	"hash" text NOT NULL,
	CONSTRAINT "events_one_per_place" UNIQUE("loop_id","seq"),
	CONSTRAINT "events_hash_is_sha256" CHECK ("events"."hash" ~ '^[0-9a-f]{64}$')
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loop_id" uuid NOT NULL,
	"state" text NOT NULL,
	"verdict" text,
	"revision" integer NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"started_by" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"sid" varchar PRIMARY KEY NOT NULL,
	"sess" json NOT NULL,
	"expire" timestamp (6) NOT NULL
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "held_rows" ADD CONSTRAINT "held_rows_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loop_revisions" ADD CONSTRAINT "loop_revisions_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loop_revisions" ADD CONSTRAINT "loop_revisions_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_loop_id_loops_id_fk" FOREIGN KEY ("loop_id") REFERENCES "public"."loops"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_started_by_people_id_fk" FOREIGN KEY ("started_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "loops_tag_whatever_case" ON "loops" USING btree (upper("tag"));--> statement-breakpoint
CREATE INDEX "loops_by_area" ON "loops" USING btree ("area","tag");--> statement-breakpoint
CREATE UNIQUE INDEX "people_name_whatever_case" ON "people" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "events_of_run" ON "events" USING btree ("run_id","seq");--> statement-breakpoint
CREATE INDEX "runs_of_loop" ON "runs" USING btree ("loop_id","started_at");--> statement-breakpoint
CREATE INDEX "sessions_expire" ON "sessions" USING btree ("expire");