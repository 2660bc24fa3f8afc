CREATE TABLE "api_tokens" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"scope" text NOT NULL,
	"digest" text NOT NULL,
	"by" uuid NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	"until" timestamp (3) with time zone NOT NULL,
	"used_at" timestamp (3) with time zone,
	"ended_at" timestamp (3) with time zone,
	CONSTRAINT "api_tokens_digest_unique" UNIQUE("digest")
);
--> statement-breakpoint
CREATE TABLE "webhook_sends" (
	"position" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "webhook_sends_position_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"webhook_id" uuid NOT NULL,
	"event_id" uuid NOT NULL,
	"body" jsonb NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp (3) with time zone DEFAULT now(),
	"arrived_at" timestamp (3) with time zone,
	"trouble" text
);
--> statement-breakpoint
CREATE TABLE "webhooks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"url" text NOT NULL,
	"secret" text NOT NULL,
	"about" jsonb NOT NULL,
	"begun_at" timestamp (3) with time zone NOT NULL,
	"ended_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "api_tokens" ADD CONSTRAINT "api_tokens_by_people_id_fk" FOREIGN KEY ("by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "webhook_sends" ADD CONSTRAINT "webhook_sends_webhook_id_webhooks_id_fk" FOREIGN KEY ("webhook_id") REFERENCES "public"."webhooks"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "webhook_sends_next" ON "webhook_sends" USING btree ("next_at");