CREATE TABLE "sent" (
	"entry" text PRIMARY KEY NOT NULL,
	"record" text NOT NULL,
	"revision" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
