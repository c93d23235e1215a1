CREATE TABLE "hands" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"wishes" jsonb NOT NULL,
	"limits" jsonb NOT NULL
);
