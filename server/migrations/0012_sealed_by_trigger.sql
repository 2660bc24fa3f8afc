-- Whatever is recorded waits for the tree, whichever way it came in: no program can forget it.
CREATE FUNCTION "waits_for_the_tree"() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO "unsealed" ("event_id", "hash") SELECT "id", "hash" FROM "arrived";
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER "events_wait_for_the_tree" AFTER INSERT ON "events"
  REFERENCING NEW TABLE AS "arrived" FOR EACH STATEMENT EXECUTE FUNCTION "waits_for_the_tree"();--> statement-breakpoint
CREATE TRIGGER "plant_events_wait_for_the_tree" AFTER INSERT ON "plant_events"
  REFERENCING NEW TABLE AS "arrived" FOR EACH STATEMENT EXECUTE FUNCTION "waits_for_the_tree"();--> statement-breakpoint
INSERT INTO "unsealed" ("event_id", "hash") SELECT "id", "hash" FROM "events" ORDER BY "recorded_at", "loop_id", "seq";--> statement-breakpoint
UPDATE "people" SET "demo" = true WHERE "name" IN ('wren', 'dunlin', 'heron', 'tern') AND EXISTS (SELECT 1 FROM "loops" WHERE "demo");
--> statement-breakpoint
CREATE TRIGGER "plant_events_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "plant_events" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();--> statement-breakpoint
CREATE TRIGGER "leaves_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "leaves" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();--> statement-breakpoint
CREATE TRIGGER "tree_nodes_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "tree_nodes" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();--> statement-breakpoint
CREATE TRIGGER "tree_heads_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "tree_heads" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();
