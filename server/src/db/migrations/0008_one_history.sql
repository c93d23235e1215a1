DROP TABLE "decisions" CASCADE;--> statement-breakpoint
DROP TABLE "hands" CASCADE;--> statement-breakpoint
DROP TABLE "tune_steps" CASCADE;--> statement-breakpoint
ALTER TABLE "arrangements" DROP COLUMN "step";--> statement-breakpoint
ALTER TABLE "tunes" DROP COLUMN "step";