CREATE TABLE "invitations" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"until" timestamp (3) with time zone NOT NULL,
	"used_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "person_keys" (
	"fingerprint" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"public_key" text NOT NULL,
	"salt" text NOT NULL,
	"iv" text NOT NULL,
	"wrapped" text NOT NULL,
	"rounds" integer NOT NULL,
	"from" timestamp (3) with time zone NOT NULL,
	"until" timestamp (3) with time zone,
	"ended" text
);
--> statement-breakpoint
CREATE TABLE "leaves" (
	"at" integer PRIMARY KEY NOT NULL,
	"event_id" uuid NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plant_events" (
	"id" uuid PRIMARY KEY NOT NULL,
	"position" integer GENERATED ALWAYS AS IDENTITY (sequence name "plant_events_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"type" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" uuid,
	"subject" text,
	"reason" text NOT NULL,
	"payload" jsonb NOT NULL,
	"row" jsonb,
	"hash" text NOT NULL,
	CONSTRAINT "plant_events_hash_is_sha256" CHECK ("plant_events"."hash" ~ '^[0-9a-f]{64}$')
);
--> statement-breakpoint
CREATE TABLE "tree_heads" (
	"size" integer PRIMARY KEY NOT NULL,
	"root" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"key" text NOT NULL,
	"signature" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tree_nodes" (
	"level" smallint NOT NULL,
	"at" integer NOT NULL,
	"hash" text NOT NULL,
	CONSTRAINT "tree_nodes_one_per_place" PRIMARY KEY("level","at")
);
--> statement-breakpoint
CREATE TABLE "unsealed" (
	"position" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "unsealed_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"event_id" uuid NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "people" DROP CONSTRAINT "people_role_known";--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "password_hash" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "state" text DEFAULT 'active' NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "areas" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "until" date;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "demo" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_keys" ADD CONSTRAINT "person_keys_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "person_keys_of_person" ON "person_keys" USING btree ("person_id");--> statement-breakpoint
CREATE UNIQUE INDEX "leaves_one_per_event" ON "leaves" USING btree ("event_id");--> statement-breakpoint
CREATE UNIQUE INDEX "plant_events_by_position" ON "plant_events" USING btree ("position");--> statement-breakpoint
CREATE INDEX "plant_events_by_type" ON "plant_events" USING btree ("type","position");--> statement-breakpoint
CREATE INDEX "plant_events_by_subject" ON "plant_events" USING btree ("subject","position");--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_state_known" CHECK ("people"."state" in ('invited', 'active', 'locked', 'left'));--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_role_known" CHECK ("people"."role" in ('administrator', 'technician', 'reviewer', 'planner', 'viewer'));