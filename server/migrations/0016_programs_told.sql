-- What is recorded waits for the webhooks that are told of it, whichever way it came in.
CREATE FUNCTION "tells_webhooks_of_records"() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO "webhook_sends" ("webhook_id", "event_id", "body")
  SELECT w."id", a."id", jsonb_build_object(
    'type', 'record.' || a."type",
    'timestamp', to_char(a."recorded_at" AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
    'data', jsonb_build_object('loop', l."id", 'tag', l."tag", 'event', a."id", 'seq', a."seq", 'run', a."run_id",
      'at', to_char(a."at" AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')))
  FROM "webhooks" w, "arrived" a JOIN "loops" l ON l."id" = a."loop_id"
  WHERE w."ended_at" IS NULL AND w."about" ? 'records of loops';
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE FUNCTION "tells_webhooks_of_the_log"() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO "webhook_sends" ("webhook_id", "event_id", "body")
  SELECT w."id", a."id", jsonb_build_object(
    'type', 'log.' || a."type",
    'timestamp', to_char(a."at" AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
    'data', jsonb_build_object('entry', a."id", 'by', a."by", 'subject', a."subject"))
  FROM "webhooks" w, "arrived" a
  WHERE w."ended_at" IS NULL AND w."about" ? 'the log of the plant';
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER "events_tell_webhooks" AFTER INSERT ON "events"
  REFERENCING NEW TABLE AS "arrived" FOR EACH STATEMENT EXECUTE FUNCTION "tells_webhooks_of_records"();--> statement-breakpoint
CREATE TRIGGER "plant_events_tell_webhooks" AFTER INSERT ON "plant_events"
  REFERENCING NEW TABLE AS "arrived" FOR EACH STATEMENT EXECUTE FUNCTION "tells_webhooks_of_the_log"();--> statement-breakpoint
CREATE SCHEMA "reading";--> statement-breakpoint
COMMENT ON SCHEMA "reading" IS 'Views for programs that read this database; their names and columns stay from version to version.';--> statement-breakpoint
CREATE VIEW "reading"."loops" AS
  SELECT l."id", l."tag", l."service", l."area", l."type", l."summary" ->> 'kind' AS "kind", l."revision",
    l."summary" ->> 'verdict' AS "verdict", l."last_calibrated", l."interval_months", l."due", l."demo" AS "simulated",
    l."archived_at" AS "out_of_use_since"
  FROM "loops" l;--> statement-breakpoint
COMMENT ON VIEW "reading"."loops" IS 'Every loop as it stands: what it is, its last verdict, when it is due.';--> statement-breakpoint
CREATE VIEW "reading"."verifications" AS
  SELECT r."id", l."tag", l."id" AS "loop_id", r."started_at", r."state", r."verdict", r."revision", p."shown_name" AS "started_by"
  FROM "runs" r JOIN "loops" l ON l."id" = r."loop_id" LEFT JOIN "people" p ON p."id" = r."started_by"
  WHERE r."kind" = 'verification';--> statement-breakpoint
COMMENT ON VIEW "reading"."verifications" IS 'Every verification: its state, its verdict, who began it.';--> statement-breakpoint
CREATE VIEW "reading"."procedures" AS
  SELECT r."id", l."tag", l."id" AS "loop_id", r."procedure", r."started_at", r."state", r."verdict" AS "result",
    r."adjusted_at", p."shown_name" AS "started_by"
  FROM "runs" r JOIN "loops" l ON l."id" = r."loop_id" LEFT JOIN "people" p ON p."id" = r."started_by"
  WHERE r."kind" = 'procedure';--> statement-breakpoint
COMMENT ON VIEW "reading"."procedures" IS 'Every procedure: its result, and when it wrote into the device last.';--> statement-breakpoint
CREATE VIEW "reading"."events" AS
  SELECT e."id", l."tag", e."loop_id", e."run_id", e."seq", e."type", e."at", e."recorded_at", p."shown_name" AS "by", e."payload", e."hash"
  FROM "events" e JOIN "loops" l ON l."id" = e."loop_id" LEFT JOIN "people" p ON p."id" = e."by";--> statement-breakpoint
COMMENT ON VIEW "reading"."events" IS 'The records of all loops, event by event; “by” is empty for people of another plant.';--> statement-breakpoint
CREATE VIEW "reading"."instruments" AS
  SELECT "id", "name", "serial", "certificate", "certified_on", "due_on", "retired" FROM "equipment" WHERE NOT "foreign";--> statement-breakpoint
COMMENT ON VIEW "reading"."instruments" IS 'The plant’s instruments with their certificates of now.';
