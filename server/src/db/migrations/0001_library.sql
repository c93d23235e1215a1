CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE TABLE "tune_steps" (
	"tune_id" text NOT NULL,
	"step" integer NOT NULL,
	"label" text NOT NULL,
	"change" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL,
	CONSTRAINT "tune_steps_tune_id_step_pk" PRIMARY KEY("tune_id","step")
);
--> statement-breakpoint
CREATE TABLE "tune_versions" (
	"id" text PRIMARY KEY NOT NULL,
	"tune_id" text NOT NULL,
	"name" text NOT NULL,
	"tune" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "decisions" ALTER COLUMN "made_at" SET DEFAULT clock_timestamp();--> statement-breakpoint
ALTER TABLE "tunes" ALTER COLUMN "source" SET DEFAULT '';--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "tags" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "step" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "used_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "facts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "sort_title" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "also_known_as" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "style" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "composer" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "key" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "metre" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "bars" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "form" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "search" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "melody" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tune_steps" ADD CONSTRAINT "tune_steps_tune_id_tunes_id_fk" FOREIGN KEY ("tune_id") REFERENCES "public"."tunes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tune_versions" ADD CONSTRAINT "tune_versions_tune_id_tunes_id_fk" FOREIGN KEY ("tune_id") REFERENCES "public"."tunes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "arrangements_tune" ON "arrangements" USING btree ("tune_id");--> statement-breakpoint
CREATE INDEX "tunes_search" ON "tunes" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "tunes_sort_title" ON "tunes" USING btree ("sort_title");