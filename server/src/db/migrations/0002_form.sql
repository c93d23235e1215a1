ALTER TABLE "tunes" ADD COLUMN "form_rules" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "traits" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "tunes" ADD COLUMN "played" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "tunes_form_rules" ON "tunes" USING btree ("form_rules");