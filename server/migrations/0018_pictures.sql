CREATE TABLE "picture_parts" (
	"sha256" text NOT NULL,
	"part" integer NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "picture_parts_one_per_place" PRIMARY KEY("sha256","part")
);
--> statement-breakpoint
CREATE TRIGGER "picture_parts_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "picture_parts" FOR EACH STATEMENT EXECUTE FUNCTION "evidence_stays"();
