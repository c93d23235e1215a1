ALTER TABLE "tunes" RENAME COLUMN "version" TO "revision";--> statement-breakpoint
ALTER TABLE "arrangements" RENAME COLUMN "version" TO "revision";
