CREATE TABLE "log" (
	"id" text PRIMARY KEY NOT NULL,
	"record" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "records" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"value" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "steps" (
	"record" text NOT NULL,
	"step" integer NOT NULL,
	"family" text NOT NULL,
	"label" text NOT NULL,
	"change" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL,
	"undone" boolean DEFAULT false NOT NULL,
	CONSTRAINT "steps_record_step_pk" PRIMARY KEY("record","step")
);
--> statement-breakpoint
ALTER TABLE "arrangements" ADD COLUMN "decisions" jsonb;--> statement-breakpoint
UPDATE "arrangements" SET "decisions" = "decisions"."decisions" FROM "decisions"
	WHERE "decisions"."arrangement_id" = "arrangements"."id" AND "decisions"."step" = "arrangements"."step";--> statement-breakpoint
UPDATE "arrangements" SET "decisions" = 'null'::jsonb WHERE "decisions" IS NULL;--> statement-breakpoint
ALTER TABLE "arrangements" ALTER COLUMN "decisions" SET NOT NULL;--> statement-breakpoint
INSERT INTO "steps" ("record", "step", "family", "label", "change", "made_at", "undone")
	SELECT "tune_id", "tune_steps"."step", "tune_id", "label", "change", "made_at", "tune_steps"."step" > "tunes"."step"
	FROM "tune_steps" JOIN "tunes" ON "tunes"."id" = "tune_steps"."tune_id";--> statement-breakpoint
INSERT INTO "steps" ("record", "step", "family", "label", "change", "made_at", "undone")
	SELECT "all"."arrangement_id", "all"."step", "arrangements"."tune_id", "all"."label",
		jsonb_build_array(jsonb_build_object('before', "all"."before", 'after', "all"."after")),
		"all"."made_at", "all"."step" > "arrangements"."step"
	FROM (
		SELECT "arrangement_id", "step", "label", "made_at", "decisions" AS "after",
			lag("decisions") OVER (PARTITION BY "arrangement_id" ORDER BY "step") AS "before"
		FROM "decisions"
	) AS "all" JOIN "arrangements" ON "arrangements"."id" = "all"."arrangement_id"
	WHERE "all"."step" > 0;--> statement-breakpoint
INSERT INTO "records" ("id", "kind", "value")
	SELECT "id", 'learner', jsonb_build_object(
		'person', jsonb_build_object('name', "name"),
		'plays', jsonb_build_object('instrument', "instrument"),
		'hand', jsonb_build_object('wishes', "wishes", 'limits', "limits"))
	FROM "hands";--> statement-breakpoint
UPDATE "arrangements" SET "decisions" = jsonb_set("decisions", '{hand,learner,id}', to_jsonb("hands"."id"))
	FROM "hands" WHERE "decisions" #>> '{hand,learner,name}' = "hands"."name";--> statement-breakpoint
UPDATE "kept" SET "value" = jsonb_set("value", '{players}', (
	SELECT jsonb_agg(CASE
		WHEN "hands"."id" IS NULL THEN "one"."player"
		ELSE jsonb_set("one"."player", '{hand,id}', to_jsonb("hands"."id"))
	END ORDER BY "one"."place")
	FROM jsonb_array_elements("kept"."value" -> 'players') WITH ORDINALITY AS "one" ("player", "place")
	LEFT JOIN "hands" ON "hands"."name" = "one"."player" #>> '{hand,name}'
)) WHERE "kind" = 'group' AND jsonb_typeof("value" -> 'players') = 'array' AND jsonb_array_length("value" -> 'players') > 0;--> statement-breakpoint
CREATE INDEX "log_record" ON "log" USING btree ("record","at");--> statement-breakpoint
CREATE INDEX "records_kind" ON "records" USING btree ("kind");--> statement-breakpoint
CREATE INDEX "steps_family" ON "steps" USING btree ("family");